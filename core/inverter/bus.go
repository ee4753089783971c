package inverter

import (
	"errors"
	"math"

	"brackmoor/core/drive"
)

// What a drive refuses of its bus.
var (
	ErrAddress = errors.New("there is no such register")
	ErrValue   = errors.New("the register does not hold this")
	ErrBusy    = errors.New("not while it runs")
	ErrState   = errors.New("not in this state, or not from here")
)

// Read is what stands in a register of its bus, by table and address.
func (d *Drive) Read(table string, address uint16) (uint16, error) {
	d.heard = d.seconds
	r, half := d.at(table, address)
	if r == nil {
		return 0, ErrAddress
	}
	raw := d.now(r)
	if r.Size() == 2 && half == 0 {
		return uint16(raw >> 16), nil
	}
	return uint16(raw), nil
}

// at is the register that lies at an address, and which half of it.
func (d *Drive) at(table string, address uint16) (r *drive.Register, half uint16) {
	for i := range d.c.Profile.Registers {
		r := &d.c.Profile.Registers[i]
		coil := r.Table == drive.Coil
		if coil == (table == drive.Coil) && address >= r.Address && address-r.Address < r.Size() {
			return r, address - r.Address
		}
	}
	return nil, 0
}

// now is what stands in a register.
func (d *Drive) now(r *drive.Register) uint32 {
	if drive.Set(r.Setting) {
		return d.raw[r.Setting]
	}
	number := func(v float64) uint32 {
		lowest, highest := 0.0, 65535.0
		if r.Type == drive.Int16 {
			lowest, highest = -32768, 32767
		}
		scale := r.Scale
		if scale == 0 {
			scale = 1
		}
		raw, err := r.Encode(drive.Value{Number: math.Min(math.Max(v, lowest*scale), highest*scale)})
		if err != nil {
			return 0
		}
		return raw
	}
	word := func(w string) uint32 { return uint32(r.Codes[w]) }
	switch r.Setting {
	case "state":
		return word(d.State())
	case "output_hertz":
		return number(math.Abs(d.hertz))
	case "output_amps":
		return number(d.shown.amps)
	case "output_volts":
		return number(d.Volts())
	case "output_watts":
		return number(d.shown.watts)
	case "bus_volts":
		return number(d.front.Volts())
	case "fault":
		if d.fault == "" {
			return word("none")
		}
		return word(d.fault)
	case "enabled":
		if d.enabled() {
			return word("closed")
		}
		return word("open")
	case "command":
		if d.run {
			return word(drive.Run)
		}
		return word(drive.Halt)
	case "reference_hertz":
		return number(d.reference)
	}
	return 0
}

// State is stopped, running or fault.
func (d *Drive) State() string {
	switch {
	case d.fault != "":
		return drive.Tripped
	case d.output:
		return drive.Running
	}
	return drive.Stopped
}

// Write writes registers that follow one another, all of them or none.
func (d *Drive) Write(table string, address uint16, values []uint16) error {
	d.heard = d.seconds
	type change struct {
		r   *drive.Register
		raw uint32
	}
	var list []change
	for i := 0; i < len(values); {
		if int(address)+i > math.MaxUint16 {
			return ErrAddress
		}
		r, half := d.at(table, address+uint16(i))
		switch {
		case r == nil || !r.Writable():
			return ErrAddress
		case half != 0 || r.Size() == 2 && i+1 >= len(values):
			return ErrValue // half a figure is none
		}
		raw := uint32(values[i])
		if r.Size() == 2 {
			raw = raw<<16 | uint32(values[i+1])
		}
		if back, err := r.Encode(r.Decode(raw)); err != nil || back != raw {
			return ErrValue
		}
		if err := d.may(r); err != nil {
			return err
		}
		list = append(list, change{r, raw})
		i += int(r.Size())
	}
	for _, c := range list {
		if err := d.set(c.r, c.raw); err != nil {
			return err
		}
	}
	return nil
}

// may says why a register is not written now.
func (d *Drive) may(r *drive.Register) error {
	switch {
	case !d.powered:
		return ErrState
	case drive.Set(r.Setting) && r.WriteWhen != drive.WhenAny && (d.run || d.output):
		return ErrBusy
	}
	return nil
}

// set puts something into a register: a setting, or an order.
func (d *Drive) set(r *drive.Register, raw uint32) error {
	if err := d.may(r); err != nil {
		return err
	}
	v := r.Decode(raw)
	switch {
	case drive.Set(r.Setting):
		d.raw[r.Setting] = raw
	case r.Setting == "reference_hertz":
		d.reference = v.Number
	case r.Setting == "command" && v.Word == drive.Halt:
		d.run, d.wasRun = false, true // whoever commands it
	case r.Setting == "command" && v.Word == drive.Reset:
		if d.fault != "" && !d.Reset() {
			return ErrState
		}
	case r.Setting == "command" && v.Word == drive.Run:
		if d.Place() != "bus" || !d.start() {
			return ErrState
		}
	}
	return nil
}

// Picture is the drive as eyes and meters see it.
type Picture struct {
	Seconds   float64  `json:"seconds"`
	Display   Display  `json:"display"`
	State     string   `json:"state"`
	Fault     string   `json:"fault"`
	Place     string   `json:"place"`
	Enabled   bool     `json:"enabled"`
	Turns     bool     `json:"turns"` // its shaft
	Hertz     float64  `json:"hertz"`
	Wanted    float64  `json:"wanted"`
	Amps      float64  `json:"amps"`
	Volts     float64  `json:"volts"`
	RPM       float64  `json:"rpm"` // of the shaft, by a tachometer
	Bus       float64  `json:"bus"`
	Ripple    float64  `json:"ripple"` // of the bus, peak to peak
	InputAmps float64  `json:"input_amps"`
	Sink      float64  `json:"sink_celsius"`
	Overload  float64  `json:"overload_percent"`
	Near      []string `json:"near" nullable:"false"` // meters that come near to where it trips
	Inputs    Inputs   `json:"inputs"`
	Log       []Trip   `json:"log" nullable:"false"`
}

// Picture looks at it.
func (d *Drive) Picture() Picture {
	seen := d.front.Seen
	const turns = 3 // rpm
	return Picture{
		Seconds: d.seconds, Display: d.Display(), State: d.State(), Fault: d.fault, Place: d.Place(),
		Enabled: d.enabled(), Turns: math.Abs(d.rpm) > turns, Hertz: d.hertz, Wanted: d.Wanted(), Amps: d.shown.amps,
		Volts: d.Volts(), RPM: d.rpm, Bus: d.front.Volts(), Ripple: seen.MostVolts - seen.LeastVolts,
		InputAmps: seen.InputAmps, Sink: d.sink, Overload: 100 * d.heat / heatMost, Inputs: d.in, Near: d.near(),
		Log: append([]Trip{}, d.Log...),
	}
}

// near are the meters that come within a tenth of where it trips.
func (d *Drive) near() []string {
	const close = 0.9
	list := []string{}
	for _, m := range []struct {
		name     string
		is, most float64
	}{
		{"bus", d.front.Volts(), drive.TripVolts}, {"sink", d.sink, drive.SinkMost}, {"overload", d.heat, heatMost},
	} {
		if m.is > close*m.most {
			list = append(list, m.name)
		}
	}
	return list
}
