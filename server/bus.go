package server

import (
	"context"
	"fmt"
	"strings"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"brackmoor/core/daybook"
	"brackmoor/core/drive"
	"brackmoor/core/rule"
	"brackmoor/core/study"
	"brackmoor/drivebus"
	"brackmoor/store"
)

// BusRow is a setting as it stands in a motor's drive beside what is meant, in words. Written is "yes", "no", "unknown"
// where the link was lost on it, "" of what was not to be written.
type BusRow struct {
	Setting string `json:"setting"`
	Title   string `json:"title"`
	Was     string `json:"was"`
	Is      string `json:"is"` // "" where it was not read
	Meant   string `json:"meant"`
	Unit    string `json:"unit"`
	Agrees  bool   `json:"agrees"`
	Written string `json:"written" enum:",yes,no,unknown"`
	Says    string `json:"says"`
}

// BusList is what a drive holds of a motor's settings. Broken is why it was broken off, "" where it was not; Says what
// was done.
type BusList struct {
	Rows   []BusRow `json:"rows" nullable:"false"`
	Broken string   `json:"broken"`
	Says   string   `json:"says"`
}

// BusShown is one figure that a drive shows.
type BusShown struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Value string `json:"value"`
	Unit  string `json:"unit"`
}

// BusNow is what a drive shows of itself, and whether it runs by this product's word. Fault is nil where there is none.
type BusNow struct {
	Shown []BusShown   `json:"shown" nullable:"false"`
	State string       `json:"state"`
	Fault *drive.Fault `json:"fault"`
	Held  bool         `json:"held"` // somebody at the machine holds it
}

// BusChange is a change as it was shown to whoever confirms it.
type BusChange struct {
	Setting string `json:"setting" minLength:"1" maxLength:"40"`
	Is      string `json:"is" maxLength:"40"`
	Meant   string `json:"meant" maxLength:"40"`
}

// buses has what runs over a bus: one at a time speaks with a drive, and who holds a motor running has to go on saying
// so.
type buses struct {
	mu    sync.Mutex
	locks map[string]*sync.Mutex // by address
	held  map[string]*time.Timer // by motor: it is stopped when this ends
}

// holdFor is how long a motor goes on that nobody says to hold any more.
const holdFor = time.Second

// lock lets one at a time speak with the drive at an address.
func (b *buses) lock(address string) func() {
	b.mu.Lock()
	if b.locks == nil {
		b.locks, b.held = map[string]*sync.Mutex{}, map[string]*time.Timer{}
	}
	m := b.locks[address]
	if m == nil {
		m = &sync.Mutex{}
		b.locks[address] = m
	}
	b.mu.Unlock()
	m.Lock()
	return m.Unlock
}

// speak opens a link to a motor's drive and does something over it, alone.
func (s *service) speak(ctx context.Context, motor string, do func(p store.Place, l *drivebus.Link) error) error {
	p, err := s.Store.Motor(ctx, motor)
	if err != nil {
		return s.fault(ctx, err)
	}
	return s.speakTo(p, func(l *drivebus.Link) error { return do(p, l) })
}

func (s *service) speakTo(p store.Place, do func(l *drivebus.Link) error) error {
	at := strings.TrimSpace(p.Motor.Way.Bus)
	if says := drivebus.Near(at); says != "" {
		return huma.Error422UnprocessableEntity("The drive is not asked.",
			&huma.ErrorDetail{Location: "way.bus", Message: says})
	}
	l, err := drivebus.At(at, drive.Among(p.Shop.Profiles, p.Motor.Way.Profile))
	if err != nil {
		return huma.Error422UnprocessableEntity(
			"The drive is not asked.",
			&huma.ErrorDetail{
				Location: "way.profile",
				Message:  "Say which drive is at hand: its profile has to have registers.",
			},
		)
	}
	defer s.bus.lock(at)()
	defer l.Close()
	return do(l)
}

// unreached is a link that failed, as a problem.
func unreached(err error) error {
	if err == nil {
		return nil
	}
	return huma.Error409Conflict(err.Error())
}

// meantFor are the settings of a motor's plan.
func (s *service) meantFor(ctx context.Context, motor string) ([]drivebus.Meant, error) {
	_, p, q, err := s.question(ctx, motor)
	if err != nil {
		return nil, err
	}
	made, err := study.Settings(q, p.Shop.Profiles)
	if err != nil {
		return nil, s.unstepped(ctx, err)
	}
	return drivebus.MeantBy(made.Entries), nil
}

// rowsOf words what was read and written.
func rowsOf(rows []drivebus.Row) []BusRow {
	list := []BusRow{}
	word := func(v *drive.Value) string {
		if v == nil {
			return ""
		}
		return v.String()
	}
	for i := range rows {
		r := &rows[i]
		row := BusRow{
			Setting: r.Setting, Title: r.Title, Was: word(r.Was), Is: word(r.Is), Meant: word(r.Meant), Unit: r.Unit,
			Agrees: r.Agrees, Says: r.Says,
		}
		switch {
		case r.Written != nil && *r.Written:
			row.Written = "yes"
		case r.Written != nil:
			row.Written = "no"
		case r.Tried:
			row.Written = "unknown"
		}
		list = append(list, row)
	}
	return list
}

func (s *service) busOf(api huma.API) {
	huma.Register(
		api,
		operation("compareDrive", "POST", "/motors/{id}/bus/compare",
			"Read a motor's drive over its bus, beside what is meant"),
		func(ctx context.Context, in *WithID) (*body[BusList], error) {
			meant, err := s.meantFor(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			var list BusList
			err = s.speak(ctx, in.ID, func(_ store.Place, l *drivebus.Link) error {
				rows, err := l.Compare(meant)
				list.Rows = rowsOf(rows)
				return unreached(err)
			})
			return &body[BusList]{list}, err
		},
	)
	huma.Register(
		api,
		operation("writeDrive", "POST", "/motors/{id}/bus/write",
			"Write what somebody has confirmed into a motor's drive while it stands, read it back and log it"),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				ID      string      `json:"id" minLength:"1" maxLength:"64"`
				Hand    string      `json:"hand" maxLength:"40"`
				Stands  bool        `json:"stands"`
				Changes []BusChange `json:"changes" nullable:"false" minItems:"1" maxItems:"120"`
			}
		}) (*body[BusList], error) {
			var problems rule.Problems
			if byHand(ctx, in.Body.Hand) == "" {
				problems.Say("hand", "who writes it is not said")
			}
			if !in.Body.Stands {
				problems.Say("stands", "somebody has to say that the motor stands, and nobody is at it")
			}
			if problems != nil {
				return nil, refusal("Nothing was written.", "body.", problems)
			}
			meant, err := s.meantFor(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			var list BusList
			err = s.speak(ctx, in.ID, func(p store.Place, l *drivebus.Link) (err error) {
				list, err = s.writeDrive(ctx, p, l, meant, in.Body.ID, byHand(ctx, in.Body.Hand), in.Body.Changes)
				return err
			})
			return &body[BusList]{list}, err
		},
	)
	huma.Register(
		api,
		operation("driveNow", "GET", "/motors/{id}/bus/now", "What a motor's drive shows of itself over its bus"),
		func(ctx context.Context, in *WithID) (*body[BusNow], error) {
			var now BusNow
			err := s.speak(ctx, in.ID, func(p store.Place, l *drivebus.Link) (err error) {
				now, err = s.busNow(p, l)
				return err
			})
			return &body[BusNow]{now}, err
		},
	)
	s.busRuns(api)
}

// writeDrive writes those of the meant settings that somebody confirmed, where the drive still holds what was shown.
func (s *service) writeDrive(
	ctx context.Context, p store.Place, l *drivebus.Link, meant []drivebus.Meant, id, hand string, changes []BusChange,
) (list BusList, err error) {
	rows, err := l.Compare(meant)
	if err != nil {
		return list, unreached(err)
	}
	shown := map[string]BusRow{}
	for _, r := range rowsOf(rows) {
		shown[r.Setting] = r
	}
	var confirmed []drivebus.Meant
	for _, c := range changes {
		r, ok := shown[c.Setting]
		if !ok || r.Is != c.Is || r.Meant != c.Meant {
			return list, huma.Error409Conflict(
				"The drive, or the plan, is not as it was shown: nothing was written. Compare once more.")
		}
		for _, m := range meant {
			if m.Setting == c.Setting {
				confirmed = append(confirmed, m)
			}
		}
	}
	written, broken := l.Write(confirmed)
	list = BusList{Rows: rowsOf(written), Says: drivebus.Words(written)}
	if broken != nil {
		list.Broken = broken.Error()
	}
	entry := daybook.Entry{
		ID: id, At: s.Now().UTC().Format(time.RFC3339), Hand: hand, Kind: daybook.Set,
		Machine: p.Machine.ID, Motor: p.Motor.ID,
		Says: daybook.Cut(strings.TrimSpace("Drive settings over the bus. " + list.Says + " " + list.Broken)),
	}
	for _, r := range list.Rows {
		if r.Was == "" && r.Is == "" {
			continue
		}
		entry.Settings = append(entry.Settings, daybook.Setting{
			Name: r.Setting, Title: r.Title, Was: r.Was, Meant: r.Meant, Read: r.Is,
		})
	}
	// What was written is written: the line of it does not hang on whether somebody still waits for the answer.
	if err := s.Store.AddEntry(context.WithoutCancel(ctx), p.Shop.ID, entry); err != nil {
		return list, s.fault(ctx, err)
	}
	return list, nil
}

// busNow reads what a drive shows.
func (s *service) busNow(p store.Place, l *drivebus.Link) (now BusNow, err error) {
	shown, err := l.Now()
	if err != nil {
		return now, unreached(err)
	}
	now.Shown = []BusShown{}
	for _, k := range drive.Seen {
		v, ok := shown[k.Name]
		switch {
		case !ok:
		case k.Name == "state":
			now.State = v.Word
		case k.Name == "fault":
			now.Fault = drive.FaultOf(v.Word)
		default:
			now.Shown = append(now.Shown, BusShown{k.Name, k.Title, v.String(), k.Unit})
		}
	}
	s.bus.mu.Lock()
	_, now.Held = s.bus.held[p.Motor.ID]
	s.bus.mu.Unlock()
	return now, nil
}

// busRuns are the operations that turn a motor over its bus.
func (s *service) busRuns(api huma.API) {
	huma.Register(
		api,
		operation("holdDrive", "POST", "/motors/{id}/bus/hold",
			"Turn a motor over its bus as long as somebody at the machine goes on asking for it"),
		func(ctx context.Context, in *struct {
			WithID
			Body struct {
				Hand string `json:"hand" maxLength:"40"`
				Here bool   `json:"here"`
			}
		}) (*body[BusNow], error) {
			var problems rule.Problems
			if byHand(ctx, in.Body.Hand) == "" {
				problems.Say("hand", "who is at the machine is not said")
			}
			if !in.Body.Here {
				problems.Say("here", "somebody has to be at the machine, with its emergency stop at hand")
			}
			if problems != nil {
				return nil, refusal("It was not started.", "body.", problems)
			}
			var now BusNow
			err := s.speak(ctx, in.ID, func(p store.Place, l *drivebus.Link) (err error) {
				if err = s.hold(ctx, p, l, byHand(ctx, in.Body.Hand)); err != nil {
					return err
				}
				now, err = s.busNow(p, l)
				return err
			})
			return &body[BusNow]{now}, err
		},
	)
	huma.Register(
		api,
		operation("haltDrive", "POST", "/motors/{id}/bus/stop", "Stop a motor over its bus"),
		func(ctx context.Context, in *WithID) (*body[BusNow], error) {
			var now BusNow
			err := s.speak(ctx, in.ID, func(p store.Place, l *drivebus.Link) error {
				s.let(in.ID)
				if err := l.Order(drive.Halt); err != nil {
					return unreached(err)
				}
				var err error
				now, err = s.busNow(p, l)
				return err
			})
			return &body[BusNow]{now}, err
		},
	)
}

// hold starts a motor over its bus, slowly, or goes on holding it: only where that was switched on for its drive, and
// its drive stops by itself within a second once its bus is silent.
func (s *service) hold(ctx context.Context, p store.Place, l *drivebus.Link, hand string) error {
	if !p.Motor.Way.BusStarts {
		return huma.Error409Conflict(
			"This drive is not to be started over its bus: that is switched on in its settings.",
		)
	}
	s.bus.mu.Lock()
	held := s.bus.held[p.Motor.ID]
	if held != nil {
		held.Reset(holdFor)
	}
	s.bus.mu.Unlock()
	if held != nil {
		// Asking is what keeps its own watch quiet.
		return unreached(l.Turn(drive.FirstHertz))
	}
	if says := l.Ready(); says != "" {
		return huma.Error409Conflict(says)
	}
	if err := s.Store.AddEntry(ctx, p.Shop.ID, daybook.Entry{
		ID: fmt.Sprintf("hold-%s-%d", p.Motor.ID[:min(len(p.Motor.ID), 30)], s.Now().UnixNano()),
		At: s.Now().UTC().Format(time.RFC3339), Hand: hand, Kind: "note", Machine: p.Machine.ID, Motor: p.Motor.ID,
		Says: fmt.Sprintf("Turned over its bus at %s Hz, held at the machine.", drive.Value{Number: drive.FirstHertz}),
	}); err != nil {
		return s.fault(ctx, err)
	}
	s.bus.mu.Lock()
	s.bus.held[p.Motor.ID] = time.AfterFunc(holdFor, func() { s.dropped(p) })
	s.bus.mu.Unlock()
	if err := l.Turn(drive.FirstHertz); err != nil {
		return unreached(err)
	}
	return unreached(l.Order(drive.Run))
}

// let takes a motor out of those that are held.
func (s *service) let(motor string) {
	s.bus.mu.Lock()
	defer s.bus.mu.Unlock()
	if held := s.bus.held[motor]; held != nil {
		held.Stop()
		delete(s.bus.held, motor)
	}
}

// dropped stops a motor that nobody holds any more, and tries again until the drive has heard it: its own watch on the
// bus stops it as well.
func (s *service) dropped(p store.Place) {
	const tries = 5
	s.let(p.Motor.ID)
	for range tries {
		if s.speakTo(p, func(l *drivebus.Link) error { return l.Order(drive.Halt) }) == nil {
			return
		}
		time.Sleep(holdFor / tries)
	}
}
