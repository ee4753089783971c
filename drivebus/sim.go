package drivebus

import (
	"errors"
	"io"
	"log"
	"net"
	"sync"
	"time"

	"github.com/simonvetter/modbus"

	"brackmoor/core/drive"
	"brackmoor/core/inverter"
)

// Sim is a simulated drive on a bus, in the time of a clock: it listens as a Modbus TCP server, unit 1. It is safe for
// use by many goroutines.
type Sim struct {
	Address string

	mu     sync.Mutex
	drive  *inverter.Drive
	now    func() time.Time
	last   time.Time
	server *modbus.ModbusServer
	done   chan struct{}
}

// Of a simulated drive: how often it is brought up to now by itself, how far behind it catches up at most, and how many
// may be linked with it, for how long without a word.
const (
	every   = 20 * time.Millisecond
	catchUp = 2 * time.Second
	clients = 4
	idle    = 30 * time.Second
)

// Listen puts a simulated drive on a bus at an address of this machine.
func Listen(address string, d *inverter.Drive, now func() time.Time) (*Sim, error) {
	// A port of nobody's choice is chosen here, since the library does not tell which it was given.
	listener, err := net.Listen("tcp", address)
	if err != nil {
		return nil, err
	}
	s := &Sim{Address: listener.Addr().String(), drive: d, now: now, last: now(), done: make(chan struct{})}
	if err := listener.Close(); err != nil {
		return nil, err
	}
	s.server, err = modbus.NewServer(&modbus.ServerConfiguration{
		URL: "tcp://" + s.Address, Timeout: idle, MaxClients: clients, Logger: log.New(io.Discard, "", 0),
	}, (*handler)(s))
	if err != nil {
		return nil, err
	}
	if err := s.server.Start(); err != nil {
		return nil, err
	}
	go s.run()
	return s, nil
}

// run keeps it up with the clock, so that ramps and trips go on while nobody looks.
func (s *Sim) run() {
	tick := time.NewTicker(every)
	defer tick.Stop()
	for {
		select {
		case <-s.done:
			return
		case <-tick.C:
			s.Do(func(*inverter.Drive) {})
		}
	}
}

// Do does something with the drive as it stands now.
func (s *Sim) Do(what func(d *inverter.Drive)) {
	s.mu.Lock()
	defer s.mu.Unlock()
	now := s.now()
	behind := min(now.Sub(s.last), catchUp)
	if ticks := int(behind.Seconds() / inverter.Tick); ticks > 0 {
		s.drive.Advance(float64(ticks) * inverter.Tick)
		s.last = s.last.Add(time.Duration(float64(ticks) * inverter.Tick * float64(time.Second)))
		if now.Sub(s.last) > catchUp {
			s.last = now
		}
	}
	what(s.drive)
}

// Close ends it.
func (s *Sim) Close() error {
	close(s.done)
	return s.server.Stop()
}

// handler answers what is asked over the bus.
type handler Sim

// refusals are the exceptions for what the drive refuses.
var refusals = []struct{ of, as error }{
	{inverter.ErrAddress, modbus.ErrIllegalDataAddress},
	{inverter.ErrValue, modbus.ErrIllegalDataValue},
	{inverter.ErrBusy, modbus.ErrServerDeviceBusy},
	{inverter.ErrState, modbus.ErrServerDeviceFailure},
}

func refusal(err error) error {
	for _, r := range refusals {
		if errors.Is(err, r.of) {
			return r.as
		}
	}
	return err
}

// HandleHoldingRegisters reads and writes registers.
func (h *handler) HandleHoldingRegisters(q *modbus.HoldingRegistersRequest) (res []uint16, err error) {
	if q.UnitId != unit {
		return nil, modbus.ErrGWTargetFailedToRespond
	}
	(*Sim)(h).Do(func(d *inverter.Drive) {
		if q.IsWrite {
			err = d.Write(drive.Holding, q.Addr, q.Args)
			return
		}
		for k := range q.Quantity {
			var v uint16
			if v, err = d.Read(drive.Holding, q.Addr+k); err != nil {
				return
			}
			res = append(res, v)
		}
	})
	return res, refusal(err)
}

// HandleCoils reads and writes coils.
func (h *handler) HandleCoils(q *modbus.CoilsRequest) (res []bool, err error) {
	if q.UnitId != unit {
		return nil, modbus.ErrGWTargetFailedToRespond
	}
	(*Sim)(h).Do(func(d *inverter.Drive) {
		if q.IsWrite {
			values := make([]uint16, len(q.Args))
			for i, on := range q.Args {
				if on {
					values[i] = 1
				}
			}
			err = d.Write(drive.Coil, q.Addr, values)
			return
		}
		for k := range q.Quantity {
			var v uint16
			if v, err = d.Read(drive.Coil, q.Addr+k); err != nil {
				return
			}
			res = append(res, v != 0)
		}
	})
	return res, refusal(err)
}

// HandleDiscreteInputs answers that there are none.
func (h *handler) HandleDiscreteInputs(*modbus.DiscreteInputsRequest) ([]bool, error) {
	return nil, modbus.ErrIllegalFunction
}

// HandleInputRegisters answers that there are none.
func (h *handler) HandleInputRegisters(*modbus.InputRegistersRequest) ([]uint16, error) {
	return nil, modbus.ErrIllegalFunction
}
