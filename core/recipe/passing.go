package recipe

import (
	"regexp"
	"strings"
)

// inPassingOut is a sentence without what it says in passing of what nobody has to do or to wait for: it is read, and read again,
// without that.
func inPassingOut(text string) string {
	lower := strings.ToLower(text)
	for k := range saidInPassing {
		if one := &saidInPassing[k]; strings.Contains(lower, one.sign) {
			text = one.said.ReplaceAllString(text, "")
		}
	}
	return text
}

// saidInPassing is what is taken out, each looked for only where its sign is.
var saidInPassing = []struct {
	sign string
	said *regexp.Regexp
}{
	{" take ", mayTake}, {"in", cutInHalf}, {"each", eachAbsorbed}, {" the ", coreOut}, {"", buttons}, {"water", wettedMould},
	{"release", releases},
}

// releases is said of how an electric cooker is opened, which takes as long as it does.
var releases = regexp.MustCompile(`(?i)(?:^|,? (?:and |then )*)(?:(?:use|do|allow|let|perform|finish with|with) )?(?:for )?(?:a )?` +
	`(?:natural|natural pressure|quick|manual)(?: pressure)? release(?: for (?:about )?\d+ ?min(?:ute)?s?)?` +
	`(?:,? (?:then |and )+(?:finish with |do |use )?(?:a )?(?:quick|manual)(?: pressure)? release)?`)

// wettedMould is said of what a mould or a dish is rinsed with, so that the pudding comes out of it.
var wettedMould = regexp.MustCompile(`(?i) (?:rinsed|wetted|swilled|moistened)(?: out)? (?:with|in) (?:a little )?(?:cold |` +
	`ice-cold )?water\b`)

// buttons are what an electric cooker asks to be pressed.
var buttons = regexp.MustCompile(`(?i)(?:^|, ?(?:and )?| and )(?:press|select|choose|hit|switch on|turn on) (?:the )?` +
	`(?:saut[eé]|cancel|start|manual|pressure cook|keep warm|porridge)(?: (?:mode|button|function|setting))?(?:,? and |, ?|$)|` +
	`(?:^|, ?(?:and )?| and )(?:set|turn) the (?:steam )?(?:valve|vent|release)(?: valve)? to (?:sealing|sealed|closed|seal)`)

// coreOut is said of what is taken out of a fruit.
var coreOut = regexp.MustCompile(`(?i), (?:remove|take out|pull out|discard) the (?:black |hard |woody |tough |dark )?` +
	`(?:strings?|threads?|core|centres?|veins?|fibres?)(?: (?:in|from|of) (?:the (?:middle|centre)|them|it))?`)

// mayTake is said of how long something may last that ends by what it looks like.
var mayTake = regexp.MustCompile(`(?i)(?:,| -| \() ?(?:this|it|which) (?:may|can|could|might) take ` +
	`(?:up to |as long as |about )?[a-z0-9 -]+\)?$`)

// cutInHalf is said of how something is that goes in.
var cutInHalf = regexp.MustCompile(`(?i), (?:cut|chopped|torn|broken|halved|sliced|split) in(?:to)? ` +
	`(?:half|halves|two|quarters|(?:small )?pieces)\b`)

// eachAbsorbed is said of a liquid that is added by and by.
var eachAbsorbed = regexp.MustCompile(`(?i), (?:letting|allowing|waiting for) each(?: addition| ladle(?:ful)?| lot| cup)?` +
	`(?: to)?(?: be| get)? (?:absorb(?:ed)?|taken up)(?: before [a-z ]+)?`)
