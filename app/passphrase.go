package app

import (
	"context"
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"kirdu/core/measure"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/crypto/bcrypt"
	"golang.org/x/text/unicode/norm"
)

// passphraseSetting is where the hash of the passphrase is kept.
const passphraseSetting = "passphrase_bcrypt"

// Bounds of a passphrase, in characters.
const (
	ShortestPassphrase = 10
	LongestPassphrase  = 200
	fewestKinds        = 5 // different characters that are no spaces
)

// ErrPassphraseLength reports a passphrase that is too short, too long or too plain.
var ErrPassphraseLength = measure.Code("app.passphrase").With(ShortestPassphrase, LongestPassphrase, fewestKinds)

// digested marks a hash of a digest of the passphrase: bcrypt reads no more than 72 bytes.
const digested = "sha256:"

// digestOf is what is hashed of a passphrase: the same on whichever keyboard it was typed.
func digestOf(passphrase string) []byte {
	sum := sha256.Sum256([]byte(norm.NFKC.String(passphrase)))
	return []byte(base64.StdEncoding.EncodeToString(sum[:]))
}

// SetPassphrase stores the household's passphrase, and ends every session: whoever is inside opens the kitchen
// again with the new one. Error: ErrPassphraseLength.
func (k *Kitchen) SetPassphrase(ctx context.Context, passphrase string) error {
	kinds := map[rune]bool{}
	for _, c := range passphrase {
		if !unicode.IsSpace(c) && unicode.IsGraphic(c) {
			kinds[c] = true
		}
	}
	if n := utf8.RuneCountInString(passphrase); n < ShortestPassphrase || n > LongestPassphrase || len(kinds) < fewestKinds {
		return ErrPassphraseLength
	}
	hash, err := bcrypt.GenerateFromPassword(digestOf(passphrase), bcrypt.DefaultCost)
	if err != nil {
		return err
	}
	return k.Store.SetSecret(ctx, passphraseSetting, digested+string(hash))
}

// HasPassphrase reports whether one was set.
func (k *Kitchen) HasPassphrase(ctx context.Context) (bool, error) {
	hash, err := k.Store.Setting(ctx, passphraseSetting)
	return hash != "", err
}

// IsPassphrase reports whether a text is the passphrase of the household.
func (k *Kitchen) IsPassphrase(ctx context.Context, text string) (bool, error) {
	hash, err := k.Store.Setting(ctx, passphraseSetting)
	if err != nil {
		return false, err
	}
	typed := []byte(text)
	if ours, is := strings.CutPrefix(hash, digested); is {
		hash, typed = ours, digestOf(text)
	}
	switch err := bcrypt.CompareHashAndPassword([]byte(hash), typed); {
	case err == nil:
		return true, nil
	case errors.Is(err, bcrypt.ErrMismatchedHashAndPassword), errors.Is(err, bcrypt.ErrHashTooShort), errors.Is(err,
		bcrypt.ErrPasswordTooLong):
		return false, nil
	default:
		return false, err
	}
}

// DeviceKey is the secret that marks of known devices are made with: another passphrase, another key.
func (k *Kitchen) DeviceKey(ctx context.Context) ([]byte, error) {
	hash, err := k.Store.Setting(ctx, passphraseSetting)
	sum := sha256.Sum256([]byte("known devices of " + hash))
	return sum[:], err
}
