// Package halt ends work that nobody waits for any more.
package halt

import "errors"

// ErrStopped says that nobody waited for the answer any more: there is none.
var ErrStopped = errors.New("nobody waits for it any more")

// Sign is closed once nobody waits any more; nil is never.
type Sign <-chan struct{}

// Err is ErrStopped once the sign is closed. What takes longer than some milliseconds asks it
// between its parts.
func (s Sign) Err() error {
	select {
	case <-s:
		return ErrStopped
	default:
		return nil
	}
}
