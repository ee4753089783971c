package store_test

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/controls"
	"brackmoor/core/feed"
	"brackmoor/core/plate"
	"brackmoor/core/shop"
	"brackmoor/store"
)

// Parts of a motor that change apart both stay; a part that changed meanwhile is refused.
func TestPartsAreChangedApart(t *testing.T) {
	s, _ := open(t)
	_, err := s.Import(ctx, demoFile(t), store.Choice{})
	require.NoError(t, err)
	before, err := s.Motor(ctx, "tarn-shaper-m1")
	require.NoError(t, err)
	m := before.Motor
	for part, c := range map[shop.Part]struct {
		change func(*shop.Motor)
		seen   func(shop.Motor) bool
	}{
		shop.PlatePart: {
			func(m *shop.Motor) { m.Plate = plate.Typed{RPM: "1700"} },
			func(m shop.Motor) bool { return m.Plate.RPM == "1700" },
		},
		shop.LeadsPart: {
			func(m *shop.Motor) { m.Leads.Celsius = "21" }, func(m shop.Motor) bool { return m.Leads.Celsius == "21" },
		},
		shop.ShaftPart: {
			func(m *shop.Motor) { m.Load = "lathe" }, func(m shop.Motor) bool { return m.Load == "lathe" },
		},
		shop.WayPart: {
			func(m *shop.Motor) { m.Way = feed.Choice{Route: "rotary"} },
			func(m shop.Motor) bool { return m.Way.Route == "rotary" },
		},
		shop.MattersPart: {
			func(m *shop.Motor) { m.Matters.Quiet = true }, func(m shop.Motor) bool { return m.Matters.Quiet },
		},
		shop.OwnPart: {
			func(m *shop.Motor) { m.Own = []controls.Terminal{{Mark: "7"}} },
			func(m shop.Motor) bool { return len(m.Own) == 1 },
		},
		shop.BuiltPart: {
			func(m *shop.Motor) { m.Built = []string{"done"} }, func(m shop.Motor) bool { return len(m.Built) == 1 },
		},
	} {
		// Each at the version that was read before any of them changed.
		after, err := s.ChangePart(ctx, m.ID, part, *m.Versions.Of(part), c.change)
		require.NoError(t, err, part)
		assert.True(t, c.seen(after.Motor), part)
		_, err = s.ChangePart(ctx, m.ID, part, *m.Versions.Of(part), c.change)
		require.ErrorIs(t, err, store.ErrChanged, part)
	}
	after, err := s.Motor(ctx, m.ID)
	require.NoError(t, err)
	assert.Equal(t, m.Version+len(shop.Parts), after.Motor.Version)
	assert.Equal(t, "1700", after.Motor.Plate.RPM)
	assert.Equal(t, "rotary", after.Motor.Way.Route)
	assert.Equal(t, "21", after.Motor.Leads.Celsius)
}

// What is committed is told to who listens, once and in order, with who did it; what fails
// is not, and who was away reads it after.
func TestEventsAreToldAfterCommit(t *testing.T) {
	s, _ := open(t)
	heard, stop := s.Listen()
	sh, err := s.AddShop(store.WithActor(ctx, "window-1"), "Kiln Lane", house)
	require.NoError(t, err)
	m, err := s.AddMachine(ctx, sh.ID, "Bandsaw")
	require.NoError(t, err)
	_, err = s.AddMachine(ctx, "none", "Bandsaw")
	require.Error(t, err)
	mo := m.Motors[0]
	_, err = s.ChangePart(
		store.WithActor(ctx, "window-2"), mo.ID, shop.PlatePart, mo.Versions.Plate,
		func(m *shop.Motor) { m.Plate.RPM = "1730" },
	)
	require.NoError(t, err)
	var events []store.Event
	for len(events) < 3 {
		select {
		case e := <-heard:
			events = append(events, e)
		case <-time.After(10 * time.Second):
			t.Fatal("nothing was told after ", events)
		}
	}
	assert.Empty(t, heard, "what failed is not told")
	assert.Equal(t, []string{"window-1", "", "window-2"}, []string{events[0].Actor, events[1].Actor, events[2].Actor})
	assert.Equal(t, store.Kind("motor.plate"), events[2].Kind)
	assert.Equal(t, mo.ID, events[2].Motor)
	assert.Less(t, events[0].ID, events[1].ID)
	missed, err := s.Since(context.Background(), events[0].ID, 10)
	require.NoError(t, err)
	assert.Equal(t, events[1:], missed)
	stop()
	_, open := <-heard
	assert.False(t, open)
}
