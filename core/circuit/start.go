package circuit

// Seconds of start timers before they were tried, and of the backup behind them (shop practice).
const (
	startSeconds  = 2.5
	backupSeconds = 6
)

// StartCapacitor puts a start capacitor between two ends, behind a potential relay or a contactor of its
// own, which Leaves moves. From is the end behind the stops; where a backup is wished, what stands behind
// it opens when the start contactor stays in. The contactor's id is empty for a potential relay, which
// leaves by itself.
func (d *Draft) StartCapacitor(c Part, near, made, from string, coils Coils) (contactor, end string) {
	if d.How.Start == ByRelay {
		r := d.Add("K", Part{Kind: PotentialRelay, Name: "start"}, "1 2 5")
		d.bled(c, near, r+":1")
		d.Wire(Made, r+":2", made)
		d.Wire(Power, near, r+":5")
		return "", from
	}
	k := d.Add("K", Part{Kind: Contactor, Name: "start", CoilVolts: coils.Volts}, "1 2 A1 A2 13 14")
	d.Wire(Power, near, k+":1")
	d.bled(c, k+":2", made)
	d.Wire(Control, k+":A2", coils.Back)
	if !d.How.Backup {
		return k, from
	}
	t := d.Add("K", Part{
		Kind: Timer, Name: "backup of the start contact", Delay: "on", Seconds: backupSeconds, CoilVolts: coils.Volts,
	}, "A1 A2 15 16")
	d.Wire(Control, coils.Hot, k+":13")
	d.Wire(Control, k+":14", t+":A1")
	d.Wire(Control, t+":A2", coils.Back)
	d.Wire(Control, from, t+":15")
	return k, t + ":16"
}

// Leaves lets a start contactor in with a coil, and out by a timer or as the start buttons are let go.
func (d *Draft) Leaves(contactor, coil string, buttons []string, coils Coils) {
	switch {
	case contactor == "":
	case d.How.Start == ByButton:
		for _, b := range buttons {
			d.Wire(Control, coil, b+":23")
			d.Wire(Control, b+":24", contactor+":A1")
		}
	default:
		t := d.Add("K", Part{
			Kind: Timer, Name: "start timer", Delay: "on", Seconds: startSeconds, CoilVolts: coils.Volts,
		}, "A1 A2 15 16")
		d.Wire(Control, coil, t+":A1")
		d.Wire(Control, t+":A2", coils.Back)
		d.Wire(Control, coil, t+":15")
		d.Wire(Control, t+":16", contactor+":A1")
	}
}

// bled is a capacitor with its bleed between two ends.
func (d *Draft) bled(c Part, a, b string) {
	id := d.Add("C", c, "1 2")
	r := d.Add("R", Part{Kind: Bleed}, "1 2")
	d.Wire(Power, a, id+":1")
	d.Wire(Made, b, id+":2")
	d.Wire(Power, id+":1", r+":1")
	d.Wire(Made, id+":2", r+":2")
}

// Capacitor is a capacitor with its bleed between two ends, for a duty.
func (d *Draft) Capacitor(duty string, microfarad, volts float64, a, b string) {
	d.bled(Part{Kind: Capacitor, Duty: duty, Microfarad: microfarad, Volts: volts}, a, b)
}
