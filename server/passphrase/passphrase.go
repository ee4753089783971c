// Package passphrase hashes the shop's passphrase with argon2id (RFC 9106) and
// checks it.
package passphrase

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"fmt"
	"strings"

	"golang.org/x/crypto/argon2"
)

// Cost is what a guess costs: passes over so many KiB by so many threads.
type Cost struct {
	Passes  uint32
	KiB     uint32
	Threads uint8
}

// Production is the cost of the passphrase that guards a shop: RFC 9106, 4, its second
// choice, for what has not got gigabytes to spare.
var Production = Cost{Passes: 3, KiB: 64 << 10, Threads: 2}

const length = 32

// Least is the least number of characters that is accepted, blanks at the ends aside.
const Least = 12

// Long tells whether a text is long enough for a passphrase.
func Long(text string) bool { return len([]rune(strings.TrimSpace(text))) >= Least }

// slots bound how many guesses are worked out at once: each takes its memory. Others queue.
var slots = make(chan struct{}, 2)

// Hash makes the encoded hash that is kept, which carries its cost.
func Hash(text string, cost Cost) string {
	salt := make([]byte, 16)
	_, _ = rand.Read(salt) // crypto/rand.Read never fails
	key := argon2.IDKey([]byte(text), salt, cost.Passes, cost.KiB, cost.Threads, length)
	encode := base64.RawStdEncoding.EncodeToString
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s",
		argon2.Version, cost.KiB, cost.Passes, cost.Threads, encode(salt), encode(key))
}

// Matches says whether a text is the passphrase behind an encoded hash; it is not for one who
// left the queue.
func Matches(ctx context.Context, encoded, text string) bool {
	parts := strings.Split(encoded, "$")
	if len(parts) != 6 || parts[1] != "argon2id" {
		return false
	}
	var version int
	var cost Cost
	if _, err := fmt.Sscanf(parts[2], "v=%d", &version); err != nil || version != argon2.Version {
		return false
	}
	if _, err := fmt.Sscanf(parts[3], "m=%d,t=%d,p=%d", &cost.KiB, &cost.Passes, &cost.Threads); err != nil {
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
	select {
	case slots <- struct{}{}:
		defer func() { <-slots }()
	case <-ctx.Done():
		return false
	}
	got := argon2.IDKey([]byte(text), salt, cost.Passes, cost.KiB, cost.Threads, uint32(len(want)))
	return subtle.ConstantTimeCompare(got, want) == 1
}
