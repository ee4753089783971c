// Package drivebus speaks with a drive over Modbus TCP, by a profile that says where its settings lie: reads them,
// compares them with what is meant, writes what differs while the motor stands, and reads it back. It also puts the
// simulated drive of core/inverter on a bus.
//
// Framing is the library's (MODBUS Messaging on TCP/IP Implementation Guide 1.0b). A link on which anything but an
// exception went wrong is closed and opened anew, so that no late answer is taken for another's.
package drivebus

import (
	"cmp"
	"errors"
	"fmt"
	"io"
	"log"
	"net"
	"time"

	"github.com/simonvetter/modbus"

	"brackmoor/core/drive"
)

// Waiting for an answer, and how often and for how long a lost link is sought again.
const (
	answerWithin = time.Second
	again        = 3
	between      = 100 * time.Millisecond
)

// unit is the drive's number on its bus.
const unit = 1

// Link is a way to one drive. It is not safe for use by more than one goroutine.
type Link struct {
	at      string
	profile drive.Profile
	client  *modbus.ModbusClient // nil while there is none
	// Wait is for an answer, Pause between seeking a lost link again; zero means the usual.
	Wait, Pause time.Duration
}

// Lost is a link that does not answer: nobody knows what became of what was asked last.
type Lost struct{ says string }

func (l *Lost) Error() string { return l.says }

// Refused is an answer of a drive that does not do what it is asked.
type Refused struct{ says string }

func (r *Refused) Error() string { return r.says }

// At is a link to a drive at host:port, which is opened once something is asked.
func At(address string, p drive.Profile) (*Link, error) {
	host, port, err := net.SplitHostPort(address)
	if err != nil || host == "" || port == "" {
		return nil, fmt.Errorf("%q is no address such as 192.168.1.40:502", address)
	}
	if len(p.Registers) == 0 {
		return nil, fmt.Errorf("the profile %q has no registers: it says nothing of the drive's bus", p.Name)
	}
	return &Link{at: address, profile: p}, nil
}

// Close ends it.
func (l *Link) Close() {
	if l.client != nil {
		_ = l.client.Close() // it is not used any more
		l.client = nil
	}
}

// open opens the link where it is not.
func (l *Link) open() error {
	if l.client != nil {
		return nil
	}
	client, err := modbus.NewClient(&modbus.ClientConfiguration{
		URL: "tcp://" + l.at, Timeout: cmp.Or(l.Wait, answerWithin), Logger: log.New(io.Discard, "", 0),
	})
	if err != nil {
		return &Lost{fmt.Sprintf("%q is no address of a drive.", l.at)}
	}
	if err := client.SetUnitId(unit); err != nil {
		return &Lost{err.Error()}
	}
	if err := client.Open(); err != nil {
		return &Lost{
			fmt.Sprintf("Nobody answers at %s: is the drive powered, its bus switched on and the cable in?", l.at),
		}
	}
	l.client = client
	return nil
}

// ask asks something of the drive, and words what comes of it.
func (l *Link) ask(what string, do func(c *modbus.ModbusClient) error) error {
	if err := l.open(); err != nil {
		return err
	}
	err := do(l.client)
	if err == nil {
		return nil
	}
	if says := exceptions[err]; says != "" {
		return &Refused{what + ": " + says}
	}
	l.Close()
	if errors.Is(err, modbus.ErrRequestTimedOut) {
		return &Lost{what + ": the drive did not answer in time. Is its number on the bus 1, and the profile its own?"}
	}
	return &Lost{what + ": the link was lost before the drive had answered."}
}

// exceptions are what a drive answers instead of what it is asked, in words.
var exceptions = map[error]string{
	modbus.ErrIllegalFunction:    "the drive does not know this request (exception 1): the profile is not its own.",
	modbus.ErrIllegalDataAddress: "the drive has no such register (exception 2): the profile is not its own.",
	modbus.ErrIllegalDataValue:   "the drive does not take this figure (exception 3).",
	modbus.ErrServerDeviceFailure: "the drive does not do this in its state, or by its bus (exception 4): a fault " +
		"stands, its enable is open, or its commands come from elsewhere.",
	modbus.ErrServerDeviceBusy:        "not while the motor runs (exception 6).",
	modbus.ErrAcknowledge:             "the drive has not finished it (exception 5).",
	modbus.ErrMemoryParityError:       "the drive's own memory failed (exception 8).",
	modbus.ErrGWPathUnavailable:       "the converter between finds no way to the drive (exception 10).",
	modbus.ErrGWTargetFailedToRespond: "no drive with the number 1 answers on the bus (exception 11).",
}

// register is a setting's, by its name.
func (l *Link) register(setting string) (*drive.Register, error) {
	if r := l.profile.Register(setting); r != nil {
		return r, nil
	}
	return nil, &Refused{drive.Title(setting) + ": the profile has no register for it."}
}

// raw reads what stands in a register.
func (l *Link) raw(r *drive.Register) (raw uint32, err error) {
	err = l.ask(drive.Title(r.Setting), func(c *modbus.ModbusClient) error {
		if r.Table == drive.Coil {
			on, err := c.ReadCoil(r.Address)
			if on {
				raw = 1
			}
			return err
		}
		values, err := c.ReadRegisters(r.Address, r.Size(), modbus.HOLDING_REGISTER)
		for _, v := range values {
			raw = raw<<16 | uint32(v)
		}
		return err
	})
	return raw, err
}

// put writes a register.
func (l *Link) put(r *drive.Register, raw uint32) error {
	return l.ask(drive.Title(r.Setting), func(c *modbus.ModbusClient) error {
		switch {
		case r.Table == drive.Coil:
			return c.WriteCoil(r.Address, raw != 0)
		case r.Size() == 2:
			return c.WriteRegisters(r.Address, []uint16{uint16(raw >> 16), uint16(raw)})
		}
		return c.WriteRegister(r.Address, uint16(raw))
	})
}

// Get reads a setting, or something seen, by its name.
func (l *Link) Get(setting string) (drive.Value, error) {
	r, err := l.register(setting)
	if err != nil {
		return drive.Value{}, err
	}
	raw, err := l.raw(r)
	if err != nil {
		return drive.Value{}, err
	}
	return r.Decode(raw), nil
}

// Now reads all that the drive shows of itself, by our names.
func (l *Link) Now() (map[string]drive.Value, error) {
	now := map[string]drive.Value{}
	for _, s := range drive.Seen {
		if l.profile.Register(s.Name) == nil {
			continue
		}
		v, err := l.Get(s.Name)
		if err != nil {
			return now, err
		}
		now[s.Name] = v
	}
	return now, nil
}

// Stands says whether the motor stands: by the drive's state, or, where its profile has none, by its output. One whose
// profile has neither is not written.
func (l *Link) Stands() (bool, error) {
	if l.profile.Register("state") == nil {
		hertz, err := l.Get("output_hertz")
		return err == nil && hertz.Number == 0, err
	}
	state, err := l.Get("state")
	return state.Word == drive.Stopped || state.Word == drive.Tripped, err
}

// Order gives the drive an order: run, stop or reset.
func (l *Link) Order(word string) error { return l.tell("command", drive.Value{Word: word}) }

// Turn says how fast it is to turn, in hertz.
func (l *Link) Turn(hertz float64) error {
	return l.tell("reference_hertz", drive.Value{Number: hertz})
}

func (l *Link) tell(what string, v drive.Value) error {
	r, err := l.register(what)
	if err != nil {
		return err
	}
	raw, err := r.Encode(v)
	if err != nil {
		return &Refused{drive.Title(what) + ": " + err.Error() + "."}
	}
	return l.put(r, raw)
}

// mostSilence is for how long in seconds a drive that is started over its bus may go on when nothing speaks to it.
const mostSilence = 1.0

// Ready says why a motor is not started over the bus, "" where it may be: its drive has to take commands and speed from
// there, to stop by itself within a second when its bus is silent, and to stand without a fault.
func (l *Link) Ready() string {
	for _, source := range []string{"run_source", "speed_source"} {
		if v, err := l.Get(source); err != nil || v.Word != "bus" {
			return drive.Title(
				source,
			) + ": the drive does not take it from its bus. It is set at the keypad, or by hand " +
				"over the bus, for as long as it is tried."
		}
	}
	silence, err := l.Get("link_loss_s")
	if err != nil || silence.Number <= 0 || silence.Number > mostSilence {
		return "The drive does not stop by itself within a second when its bus is silent: it is not started over it."
	}
	switch now, err := l.Get("state"); {
	case err != nil:
		return err.Error()
	case now.Word == drive.Tripped:
		return "A fault stands: it is looked at and cleared first."
	case now.Word == drive.Running:
		return "The motor runs already, by somebody else's word."
	}
	return ""
}
