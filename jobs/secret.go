package jobs

import (
	"crypto/aes"
	"crypto/cipher"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"

	"juxtagram/core/intake"
)

// LoadKey reads the installation's key (32 bytes) from its folder, or makes it.
func LoadKey(data string) ([]byte, error) {
	file := filepath.Join(data, "installation.key")
	key, err := os.ReadFile(file)
	if errors.Is(err, os.ErrNotExist) {
		key = make([]byte, 32)
		_, _ = rand.Read(key) // never fails
		if err := os.MkdirAll(data, 0o755); err != nil {
			return nil, err
		}
		// a full disk must not leave half a key under its name
		if err := os.WriteFile(file+".new", key, 0o600); err != nil {
			_ = os.Remove(file + ".new")
			return nil, err
		}
		return key, os.Rename(file+".new", file)
	}
	if err == nil && len(key) != 32 {
		return nil, fmt.Errorf("%s is damaged: it holds %d bytes, not 32", file, len(key))
	}
	return key, err
}

func (r *Runner) cipher() (cipher.AEAD, error) {
	block, err := aes.NewCipher(r.config.Key)
	if err != nil {
		return nil, err
	}
	return cipher.NewGCMWithRandomNonce(block)
}

// Seal encrypts a credential with the installation's key.
func (r *Runner) Seal(c *intake.Credential) ([]byte, error) {
	plain, err := json.Marshal(c)
	if err != nil {
		return nil, err
	}
	return r.SealBytes(plain)
}

// SealBytes encrypts any secret with the installation's key.
func (r *Runner) SealBytes(plain []byte) ([]byte, error) {
	aead, err := r.cipher()
	if err != nil {
		return nil, err
	}
	return aead.Seal(nil, nil, plain, nil), nil
}

// OpenBytes takes SealBytes back.
func (r *Runner) OpenBytes(sealed []byte) ([]byte, error) {
	aead, err := r.cipher()
	if err != nil {
		return nil, err
	}
	return aead.Open(nil, nil, sealed, nil)
}

func (r *Runner) open(sealed []byte) (*intake.Credential, error) {
	plain, err := r.OpenBytes(sealed)
	if err != nil {
		return nil, errors.New("the kept credential cannot be read with this installation's key; give it again")
	}
	c := new(intake.Credential)
	return c, json.Unmarshal(plain, c)
}
