package authority

import (
	"bufio"
	"errors"
	"net"
	"sync"
	"time"
)

// handshake is the first byte of a TLS record that begins a connection (RFC 8446, 5.1).
const handshake = 0x16

// sniffing is for how long a connection may keep silent at first, breath what is waited after one that failed.
const (
	sniffing = 10 * time.Second
	breath   = 50 * time.Millisecond
)

// Split parts what comes in on one port: connections that begin with TLS, and those that do not, from somebody who
// typed the address without its s. The listener is closed once both of them are.
func Split(l net.Listener) (secure, plain net.Listener) {
	var open sync.WaitGroup
	open.Add(2)
	s, p := newHalf(l, open.Done), newHalf(l, open.Done)
	go func() {
		open.Wait()
		_ = l.Close() // nobody listens any more
	}()
	go func() {
		defer s.end()
		defer p.end()
		for {
			c, err := l.Accept()
			if errors.Is(err, net.ErrClosed) {
				return
			}
			if err != nil { // such as too many open at once
				time.Sleep(breath)
				continue
			}
			go func() {
				r := bufio.NewReaderSize(c, 16)
				_ = c.SetReadDeadline(time.Now().Add(sniffing))
				first, err := r.Peek(1)
				if err != nil || c.SetReadDeadline(time.Time{}) != nil {
					_ = c.Close() // who has nothing to say is not waited for
					return
				}
				to := p
				if first[0] == handshake {
					to = s
				}
				select {
				case to.conns <- &sniffed{c, r}:
				case <-to.done:
					_ = c.Close()
				}
			}()
		}
	}()
	return s, p
}

// half is the connections of a listener that begin alike.
type half struct {
	net.Listener
	conns chan net.Conn
	done  chan struct{}
	end   func()
}

func newHalf(l net.Listener, ended func()) *half {
	h := &half{Listener: l, conns: make(chan net.Conn), done: make(chan struct{})}
	h.end = sync.OnceFunc(func() {
		close(h.done)
		ended()
	})
	return h
}

func (h *half) Accept() (net.Conn, error) {
	select {
	case c := <-h.conns:
		return c, nil
	case <-h.done:
		return nil, net.ErrClosed
	}
}

func (h *half) Close() error {
	h.end()
	return nil
}

// sniffed is a connection whose first byte was looked at.
type sniffed struct {
	net.Conn
	r *bufio.Reader
}

func (s *sniffed) Read(b []byte) (int, error) { return s.r.Read(b) }
