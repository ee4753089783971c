// Package passphrase hashes the shop's passphrase with argon2id (RFC 9106) and
// checks it.
package passphrase

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"fmt"
	"strings"

	"golang.org/x/crypto/argon2"
)

const (
	passes  = 3
	memory  = 64 << 10 // KiB
	threads = 2
	length  = 32
)

// Least is the least number of characters that is accepted.
const Least = 12

// Hash makes the encoded hash that is kept.
func Hash(text string) string {
	salt := make([]byte, 16)
	_, _ = rand.Read(salt) // crypto/rand.Read never fails
	key := argon2.IDKey([]byte(text), salt, passes, memory, threads, length)
	encode := base64.RawStdEncoding.EncodeToString
	return fmt.Sprintf(
		"$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s",
		argon2.Version,
		memory,
		passes,
		threads,
		encode(salt),
		encode(key),
	)
}

// Matches says whether a text is the passphrase behind an encoded hash.
func Matches(encoded, text string) bool {
	parts := strings.Split(encoded, "$")
	if len(parts) != 6 || parts[1] != "argon2id" {
		return false
	}
	var version int
	var m, t uint32
	var p uint8
	if _, err := fmt.Sscanf(parts[2], "v=%d", &version); err != nil || version != argon2.Version {
		return false
	}
	if _, err := fmt.Sscanf(parts[3], "m=%d,t=%d,p=%d", &m, &t, &p); err != nil {
		return false
	}
	salt, err := base64.RawStdEncoding.DecodeString(parts[4])
	if err != nil {
		return false
	}
	want, err := base64.RawStdEncoding.DecodeString(parts[5])
	if err != nil || len(want) == 0 {
		return false
	}
	got := argon2.IDKey([]byte(text), salt, t, m, p, uint32(len(want)))
	return subtle.ConstantTimeCompare(got, want) == 1
}
