package app

import (
	"context"
	"errors"

	"golang.org/x/crypto/bcrypt"
)

// passphraseSetting is where the hash of the passphrase is kept.
const passphraseSetting = "passphrase_bcrypt"

// Bounds of a passphrase; bcrypt reads no more than 72 bytes.
const (
	ShortestPassphrase = 10
	LongestPassphrase  = 72
)

// ErrPassphraseLength reports a passphrase that is too short or too long.
var ErrPassphraseLength = errors.New("the passphrase must have 10 to 72 characters")

// SetPassphrase stores the household's passphrase. Error: ErrPassphraseLength.
func (k *Kitchen) SetPassphrase(ctx context.Context, passphrase string) error {
	if len(passphrase) < ShortestPassphrase || len(passphrase) > LongestPassphrase {
		return ErrPassphraseLength
	}
	hash, err := bcrypt.GenerateFromPassword([]byte(passphrase), bcrypt.DefaultCost)
	if err != nil {
		return err
	}
	return k.Store.SetSetting(ctx, passphraseSetting, string(hash))
}

// HasPassphrase reports whether one was set.
func (k *Kitchen) HasPassphrase(ctx context.Context) (bool, error) {
	hash, err := k.Store.Setting(ctx, passphraseSetting)
	return hash != "", err
}

// IsPassphrase reports whether a text is the passphrase of the household.
func (k *Kitchen) IsPassphrase(ctx context.Context, text string) (bool, error) {
	hash, err := k.Store.Setting(ctx, passphraseSetting)
	return err == nil && bcrypt.CompareHashAndPassword([]byte(hash), []byte(text)) == nil, err
}
