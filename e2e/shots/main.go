// Command shots takes the pictures of docs/screenshots from the sample kitchen.
// With arguments it takes one picture: PATH WIDTH HEIGHT FILE [dark].
package main

import (
	"context"
	"fmt"
	"log"
	"log/slog"
	"net"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"

	"kirdu/app"
	"kirdu/demo"
	"kirdu/store"
	"kirdu/web"
)

// A shot is one picture.
type shot struct {
	path, file    string
	width, height int64
	dark          bool
	paste         string // into the form of the page, which is sent; the picture is of what comes then
}

// pasted is a recipe as a cook has it.
const pasted = `My aunt's rice for the rains
1 litre full fat milk
1/2 cup basmati rice, washed and soaked for 30 mins
1/3 cup sugar
1 tbsp ghee
10 cashews, raisins
cardamom
Bring the milk to the boil in a heavy pan, then turn down the flame. Drain the rice, add it and let it simmer for 35 minutes,
stirring often, until it is soft and the milk is down to two thirds. Stir in the sugar and the cardamom and cook 5 minutes
more. Fry the cashews and raisins in the ghee and pour over. It thickens as it cools.`

func main() {
	if err := run(context.Background()); err != nil {
		log.Fatal(err)
	}
}

func run(ctx context.Context) error {
	folder, err := os.MkdirTemp("", "kirdu-shots-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)
	k, err := app.Open(ctx, filepath.Join(folder, "demo.sqlite"), slog.New(slog.NewTextHandler(os.Stderr, nil)))
	if err != nil {
		return err
	}
	s := k.Store
	defer s.Close()
	k.Zone = time.UTC
	if err := demo.Fill(ctx, k); err != nil {
		return err
	}
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return err
	}
	server := web.NewServer(web.Options{Kitchen: k})
	go server.Serve(listener)
	defer server.Close()

	shots, err := chosen(ctx, s)
	if err != nil {
		return err
	}
	opts := append(chromedp.DefaultExecAllocatorOptions[:], chromedp.ExecPath("/usr/bin/chromium-headless-shell"), chromedp.NoSandbox,
		chromedp.Flag("disable-quic", true), chromedp.Flag("disable-component-update", true), chromedp.Flag("hide-scrollbars", true))
	alloc, stop := chromedp.NewExecAllocator(ctx, opts...)
	defer stop()
	browser, closeBrowser := chromedp.NewContext(alloc)
	defer closeBrowser()
	for _, one := range shots {
		if err := take(browser, "http://"+listener.Addr().String(), one); err != nil {
			return fmt.Errorf("picture of %s: %w", one.path, err)
		}
	}
	return nil
}

// chosen are the pictures asked for, by default one of each main view.
func chosen(ctx context.Context, s *store.Store) ([]shot, error) {
	shelf, err := s.Puddings(ctx, 10)
	if err != nil {
		return nil, err
	}
	cooks, err := s.OnStove(ctx)
	if err != nil {
		return nil, err
	}
	book, err := s.Book(ctx, 1)
	if err != nil {
		return nil, err
	}
	suppers, err := s.Gatherings(ctx)
	if err != nil {
		return nil, err
	}
	pudding, stove, batch := "/puddings/"+shelf[0].ID, "/stove/"+cooks[0].ID, "/logbook/"+book[0].ID
	if len(os.Args) >= 5 {
		path := strings.NewReplacer("PUDDING", pudding, "ROASTED", "/puddings/"+shelf[2].ID, "STOVE", stove, "BATCH", batch).Replace(os.Args[1])
		width, errWidth := strconv.ParseInt(os.Args[2], 10, 64)
		height, errHeight := strconv.ParseInt(os.Args[3], 10, 64)
		if errWidth != nil || errHeight != nil {
			return nil, fmt.Errorf("give width and height as numbers")
		}
		return []shot{{path, os.Args[4], width, height, len(os.Args) > 5 && os.Args[5] == "dark", ""}}, nil
	}
	const wide, high, narrow, tall = 1280, 800, 390, 844
	at := func(name string) string { return filepath.Join("docs", "screenshots", name+".png") }
	return []shot{
		{"/", at("today"), wide, high, false, ""}, {"/puddings", at("puddings"), wide, high, false, ""},
		{pudding, at("workbench"), wide, high, false, ""}, {pudding, at("workbench-dark"), wide, high, true, ""},
		{stove, at("stove"), narrow, tall, false, ""}, {"/", at("today-phone"), narrow, tall, false, ""},
		{"/logbook", at("logbook"), wide, high, false, ""}, {batch, at("batch"), wide, high, false, ""},
		{"/kitchen", at("kitchen"), wide, high, false, ""}, {"/gatherings/" + suppers[0].ID, at("gathering"), wide, high, false, ""},
		{"/intake", at("recipe"), wide, high, false, pasted},
		{pudding + "/scale?bowls=18", at("scaling"), wide, high, false, ""},
		{pudding + "/balance?thickness=4.2&sweet=13&bowls=6&lock=rice-short", at("balance"), wide, high, false, ""},
		{pudding + "/sheet", at("sheet"), wide, high, false, ""},
		{stove + "/rescue?symptom=too-thick&wanted=3", at("rescue"), wide, high, false, ""}, {"/pantry", at("pantry"), wide, high, false, ""},
		{"/benches/coconut", at("bench-coconut"), wide, high, false, ""}, {"/puddings/new?way=pulse+with+jaggery+and+presses", at("new-pudding"),
			wide, high, false, ""},
		{pudding + "/compare?question=sugar", at("compare"), wide, high, false, ""},
	}, nil
}

// settle is how long a page may take to load its fonts and draw.
const settle = 400 * time.Millisecond

func take(browser context.Context, site string, one shot) error {
	tab, closeTab := chromedp.NewContext(browser)
	defer closeTab()
	scheme := "light"
	if one.dark {
		scheme = "dark"
	}
	media := chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		features := []*emulation.MediaFeature{{Name: "prefers-color-scheme", Value: scheme}}
		_, err := cdp.Call(ctx, t, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Features: features})
		return err
	})
	if err := chromedp.Do(tab, chromedp.EmulateViewport(one.width, one.height), media,
		chromedp.Navigate(site+one.path), chromedp.WaitVisible(chromedp.CSS("h1")), chromedp.Sleep(settle)); err != nil {
		return err
	}
	if one.paste != "" {
		const form, read = "#list", "#method-head"
		if err := chromedp.Do(tab, chromedp.SetValue(chromedp.CSS(form), one.paste), chromedp.Click(chromedp.CSS("form button.is-primary")),
			chromedp.WaitVisible(chromedp.CSS(read)), chromedp.ScrollIntoView(chromedp.CSS("section.method ol, section.method li")),
			chromedp.Sleep(settle)); err != nil {
			return err
		}
	}
	picture, err := chromedp.Run(tab, chromedp.CaptureScreenshot())
	if err != nil {
		return err
	}
	const readable = 0o644
	if err := os.MkdirAll(filepath.Dir(one.file), 0o755); err != nil {
		return err
	}
	return os.WriteFile(one.file, picture, readable)
}
