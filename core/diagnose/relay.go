package diagnose

import "brackmoor/core/rule"

// relay is a potential relay that takes a start capacitor out: the volts at which it pulls, and those at which it
// falls. One that pulls at none is not there.
type relay struct{ pulls, falls float64 }

var (
	relayFalls   = rule.Limit("start.relay-chatters", "falls_share") // of the volts at which it pulls
	relayMargin  = rule.Limit("start.no-relay", "least_margin")      // from standstill to where it pulls
	contactFalls = rule.Limit("rotary.made-leg", "coil_falls_share") // of a contactor's volts
)

const (
	upSlip    = 0.25 // at which a start capacitor leaves
	idlerUp   = 0.9  // of the volts of an idler with nothing on it, at which its own leaves
	sags      = 0.9  // of the volts are left as a start capacitor leaves, or a load comes on
	wornFalls = 0.95 // of the volts at which a worn relay pulls
)

// relaySees are the volts that a relay hangs on: the made leg to the line where the capacitors are not, for there they
// rise with speed; of a converter the lower of the two.
func (w *world) relaySees(s *state) float64 {
	switch {
	case w.idler != nil:
		return min(s.bc, s.ca)
	case w.on == "ac":
		return s.bc
	}
	return s.ca
}

// held is the world with its machine held at a slip, its start capacitor in or out.
func (w *world) held(slip float64, starting bool) state {
	w.machine.slip = slip
	w.fit(starting)
	return w.solve()
}

// setRelay sets the relay of a sound world as a shop does: it pulls at the volts of the speed at which the start
// capacitor is to leave. None is set where these do not tell the speed.
func (w *world) setRelay(idle *state) {
	switch {
	case w.idler != nil && idle != nil:
		w.relay.pulls = idlerUp * w.relaySees(idle)
	case w.idler == nil && w.start > 0:
		other := w.copy()
		standing, up := other.held(1, true), other.held(upSlip, true)
		if at := other.relaySees(&up); at > relayMargin*other.relaySees(&standing) {
			w.relay.pulls = at
		}
	}
	w.relay.falls = relayFalls * w.relay.pulls
}

// early says whether the relay takes the start capacitor out at standstill, by what stands there with it.
func (w *world) early(locked *state) bool {
	return w.idler == nil && w.start > 0 && w.relay.pulls > 0 && w.relaySees(locked) >= w.relay.pulls
}

// chatters says whether the relay lets go again once it has pulled, for the volts fall without the start capacitor:
// at standstill where it pulls early, else where it is to leave.
func (p *picture) chatters() bool {
	w := p.world
	if w.idler != nil {
		return w.relay.falls > sags*w.relay.pulls
	}
	if w.start == 0 || w.relay.pulls == 0 || w.stuck {
		return false
	}
	if p.early {
		return w.relaySees(&p.locked) < w.relay.falls
	}
	if p.start != starts && p.start != backwards {
		return false
	}
	other := w.copy()
	left := other.held(1-p.sense*(1-upSlip), false)
	return other.relaySees(&left) < w.relay.falls
}

// comesBack says whether the volts of a running machine, or of a converter as the machine starts, let the relay fall,
// so that the start part comes in once more.
func (p *picture) comesBack() bool {
	w := p.world
	if w.relay.pulls == 0 || w.dead || w.standing || w.stuck {
		return false
	}
	if w.idler != nil {
		return w.relaySees(&p.locked) < w.relay.falls
	}
	if w.start == 0 || p.early || p.idle == nil {
		return false
	}
	if w.relay.falls > sags*w.relay.pulls {
		return true
	}
	s := p.loaded
	if s == nil { // it stalls
		stalled := w.copy().held(1, false)
		s = &stalled
	}
	return w.relaySees(s) < w.relay.falls
}

// contactorFalls says whether a contactor lets go as the machine starts: its coil's volts may let it, or it does so by
// itself.
func (p *picture) contactorFalls() bool {
	at := p.locked.ab
	if p.world.coilOnMade {
		at = p.locked.bc
	}
	return !p.world.dead && (p.world.loose || at < contactFalls*p.world.meant.volts)
}
