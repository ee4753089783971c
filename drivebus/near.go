package drivebus

import (
	"fmt"
	"net/netip"
)

// Near says what is wrong with an address of a drive that somebody typed into a page, "" for nothing: it is one of this
// machine, or of the shop's own network, and never a name, since nobody is to be sent elsewhere by it.
func Near(address string) string {
	at, err := netip.ParseAddrPort(address)
	switch {
	case err != nil:
		return fmt.Sprintf("%q is no address and port such as 192.168.1.40:502.", address)
	case at.Port() == 0:
		return "A port is wanted, mostly 502."
	case !at.Addr().IsLoopback() && !at.Addr().IsPrivate() && !at.Addr().IsLinkLocalUnicast():
		return at.Addr().String() + " lies outside of the shop's own network: a drive's bus is never open to the world."
	}
	return ""
}
