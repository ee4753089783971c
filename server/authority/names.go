package authority

import (
	"net"
	"os"
	"slices"
	"strings"
)

// Names are those under which a server that listens there is asked: the address, or every one of this machine where it
// listens on all; this machine by its own name, and others that were given.
func Names(listen string, others []string) func() []string {
	host, _, err := net.SplitHostPort(listen)
	if err != nil {
		host = listen
	}
	return func() []string {
		list := append([]string{"localhost", "127.0.0.1", "::1"}, others...)
		if name, err := os.Hostname(); err == nil && name != "" && !strings.Contains(name, ".") {
			list = append(list, strings.ToLower(name)+".local")
		}
		if ip := net.ParseIP(host); host != "" && (ip == nil || !ip.IsUnspecified()) {
			list = append(list, host)
		} else {
			list = append(list, Addresses()...)
		}
		slices.Sort(list)
		return slices.Compact(list)
	}
}

// Addresses are those of this machine on its networks.
func Addresses() (list []string) {
	all, err := net.InterfaceAddrs()
	if err != nil {
		return nil
	}
	for _, a := range all {
		if n, ok := a.(*net.IPNet); ok && within(private(), n.IP) && !n.IP.IsLoopback() && !n.IP.IsLinkLocalUnicast() {
			list = append(list, n.IP.String())
		}
	}
	return list
}
