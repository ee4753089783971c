package circuit

import "math"

// Seconds of a start timer where no start was computed, and how much longer the backup behind it waits (shop practice).
const (
	startSeconds = 2.5
	backupTimes  = 2
	backupMore   = 2.0
)

// leaves is when a start timer takes a bank out.
func (b *Bank) leaves() float64 {
	if b.Seconds == 0 {
		return startSeconds
	}
	return b.Seconds
}

// Settable is a time as it is set on a timer: no less, by tenths of a second, or by halves above two.
func Settable(seconds float64) float64 {
	steps := 10.0
	if seconds > 2 {
		steps = 2
	}
	return math.Ceil(steps*seconds-1e-9) / steps
}

// StartCapacitor puts a start capacitor of a motor between two ends, behind a potential relay, a centrifugal switch
// on its shaft or a contactor of its own, which Leaves moves. From is the end behind the stops; where a backup is
// wished, what stands behind it opens when the start contactor stays in. The contactor's id is empty for what leaves
// by itself.
func (d *Draft) StartCapacitor(
	b Bank, motor, near, made, from string, coils Coils,
) (contactor, end string) {
	switch d.How.Start {
	case BySwitch:
		s := d.Add("S", Part{Kind: CentrifugalSwitch, Name: "start", Of: motor}, "1 2")
		d.Wire(Power, near, s+":1")
		d.Bank(b, s+":2", made)
		return "", from
	case ByRelay:
		r := d.Add("K", Part{
			Kind: PotentialRelay, Name: "start", PickUpVolts: b.PickUp, DropOutVolts: b.DropOut,
		}, "1 2 5")
		d.Bank(b, near, r+":1")
		d.Wire(Made, r+":2", made)
		d.Wire(Power, near, r+":5")
		return "", from
	}
	k := d.Add("K", Part{Kind: Contactor, Name: "start", CoilVolts: coils.Volts}, "1 2 A1 A2 13 14")
	d.Wire(Power, near, k+":1")
	d.Bank(b, k+":2", made)
	d.Wire(Control, k+":A2", coils.Back)
	if !d.How.Backup {
		return k, from
	}
	t := d.Add("K", Part{
		Kind: Timer, Name: "backup of the start contact", Delay: "on",
		Seconds: Settable(max(backupTimes*b.leaves(), b.leaves()+backupMore)), CoilVolts: coils.Volts,
	}, "A1 A2 15 16")
	d.Wire(Control, coils.Hot, k+":13")
	d.Wire(Control, k+":14", t+":A1")
	d.Wire(Control, t+":A2", coils.Back)
	d.Wire(Control, from, t+":15")
	return k, t + ":16"
}

// Leaves lets the start contactor of a bank in with a coil, and out by a timer or as the start buttons are let go.
func (d *Draft) Leaves(b Bank, contactor, coil string, buttons []string, coils Coils) {
	switch {
	case contactor == "":
	case d.How.Start == ByButton:
		for _, s := range buttons {
			d.Wire(Control, coil, s+":23")
			d.Wire(Control, s+":24", contactor+":A1")
		}
	default:
		t := d.Add("K", Part{
			Kind: Timer, Name: "start timer", Delay: "on", Seconds: b.leaves(), CoilVolts: coils.Volts,
		}, "A1 A2 15 16")
		d.Wire(Control, coil, t+":A1")
		d.Wire(Control, t+":A2", coils.Back)
		d.Wire(Control, coil, t+":15")
		d.Wire(Control, t+":16", contactor+":A1")
	}
}

// Bank is a capacitor of one can or several, and the bleed at each.
type Bank struct {
	Duty       string
	Microfarad float64
	Volts      float64
	Cans       []string
	OnHand     []string // of the cans, the ids of those in a shop's stores
	Ohms       float64  // of each bleed
	Watts      float64
	// Of a start capacitor: seconds after which a timer takes it out, 0 for the usual, and the volts of a potential
	// relay.
	Seconds, PickUp, DropOut float64
}

// Bank puts one between two ends.
func (d *Draft) Bank(b Bank, from, to string) {
	c := d.Add("C", Part{
		Kind: Capacitor, Duty: b.Duty, Microfarad: b.Microfarad, Volts: b.Volts, Cans: b.Cans, OnHand: b.OnHand,
	}, "1 2")
	r := d.Add("R", Part{Kind: Bleed, Name: "bleed", Ohms: b.Ohms, Watts: b.Watts}, "1 2")
	d.Wire(Power, from, c+":1")
	d.Wire(Made, to, c+":2")
	d.Wire(Power, c+":1", r+":1")
	d.Wire(Made, c+":2", r+":2")
}
