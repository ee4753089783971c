package store

import (
	"context"
	"database/sql"
	"sync"
	"time"
)

// Kind is what an event is about: a subject and what became of it.
type Kind string

// The kinds of event. A motor's parts have one each: "motor.plate" and so on.
const (
	ShopAdded       Kind = "shop.added"
	ShopChanged     Kind = "shop.changed"
	ShopDeleted     Kind = "shop.deleted"
	ShopRestored    Kind = "shop.restored"
	ShopCopied      Kind = "shop.copied"
	ShopImported    Kind = "shop.imported"
	MachineAdded    Kind = "machine.added"
	MachineChanged  Kind = "machine.changed"
	MachineDeleted  Kind = "machine.deleted"
	MachineRestored Kind = "machine.restored"
	MachineCopied   Kind = "machine.copied"
	MachineImported Kind = "machine.imported"
	MotorAdded      Kind = "motor.added"
	MotorDeleted    Kind = "motor.deleted"
	MotorRestored   Kind = "motor.restored"
	MotorImported   Kind = "motor.imported"
	MotorLearned    Kind = "motor.learned"
	PhotoAdded      Kind = "photo.added"
	PhotoDeleted    Kind = "photo.deleted"
	PhotoRestored   Kind = "photo.restored"
)

// Event is a change that was committed: its place in the daybook, of which kind it is,
// what it is about, who made it and when. Actor is the window that asked for it, empty
// where that is not known.
type Event struct {
	ID      int64     `json:"id"`
	Kind    Kind      `json:"kind"`
	Shop    string    `json:"shop"`
	Machine string    `json:"machine"`
	Motor   string    `json:"motor"`
	Actor   string    `json:"actor"`
	At      time.Time `json:"at"`
}

type actorKey struct{}

// WithActor says who asks for what is done in this context.
func WithActor(ctx context.Context, actor string) context.Context {
	return context.WithValue(ctx, actorKey{}, actor)
}

func actorOf(ctx context.Context) string {
	actor, _ := ctx.Value(actorKey{}).(string)
	return actor
}

// waiting is how many events may wait for a listener that is slow; one that is slower is
// let go of, and reads on from the daybook when it comes again.
const waiting = 256

// listeners are those who want to hear of events.
type listeners struct {
	mu   sync.Mutex
	next int
	all  map[int]chan Event
}

// Listen hears of every event from now on, until stop is called or the channel is closed
// because it was not read.
func (s *Store) Listen() (events <-chan Event, stop func()) {
	l := &s.listeners
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.all == nil {
		l.all = map[int]chan Event{}
	}
	id, c := l.next, make(chan Event, waiting)
	l.next++
	l.all[id] = c
	return c, func() {
		l.mu.Lock()
		defer l.mu.Unlock()
		if _, there := l.all[id]; there {
			delete(l.all, id)
			close(c)
		}
	}
}

// tell tells the listeners of what was committed.
func (l *listeners) tell(events []Event) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for _, e := range events {
		for id, c := range l.all {
			select {
			case c <- e:
			default:
				delete(l.all, id)
				close(c)
			}
		}
	}
}

// Since lists the events after one of the daybook, at most so many, the earliest first.
func (s *Store) Since(ctx context.Context, id int64, most int) ([]Event, error) {
	return collect(ctx, s.DB, func(rows *sql.Rows) (e Event, err error) {
		var at string
		if err = rows.Scan(&e.ID, &e.Kind, &e.Shop, &e.Machine, &e.Motor, &e.Actor, &at); err == nil {
			e.At, err = time.Parse(time.RFC3339, at)
		}
		return e, err
	}, "SELECT id, kind, shop_id, COALESCE(machine_id, ''), COALESCE(motor_id, ''), actor, at FROM daybook "+
		"WHERE id > ? ORDER BY id LIMIT ?", id, most)
}
