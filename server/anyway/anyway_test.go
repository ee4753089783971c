// Package anyway_test adds a way of feeding that nobody sells, and finds it wherever ways
// are shown.
package anyway_test

import (
	"context"
	"encoding/json"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/compare"
	"brackmoor/core/feed"
	"brackmoor/core/feed/singlephase"
	"brackmoor/core/machine"
	"brackmoor/core/rule"
	"brackmoor/core/shop"
	"brackmoor/demo"
	"brackmoor/server"
	"brackmoor/sheet"
	"brackmoor/store"
)

// wheel turns the motor by a water wheel; what it does not say itself is a single-phase
// motor's.
type wheel struct{ feed.Way }

const says = "a wheel of 4 m"

func (wheel) Info() feed.Info {
	return feed.Info{Name: "water-wheel", Title: "Water wheel", Family: "river", Order: 9}
}

func (wheel) Outline(q *feed.Question) *feed.Outline {
	o := &feed.Outline{
		Starts: true, Margin: new(9.0), UsableWatts: &[2]float64{0, q.Watts()}, Duty: &machine.Usable{Watts: q.Watts()},
		LossWatts: new(0.0), Unsolved: []string{"drought"}, Verdicts: []rule.Verdict{},
	}
	o.Keep("wheel_metres", "wheel", 4, "m")
	return o
}

func (wheel) Weigh(*feed.Question, *feed.Outline) []feed.Against { return nil }

func (w wheel) Size(*feed.Question) (feed.Page, error) {
	return feed.Page{
		Way: w.Info().Name, Title: w.Info().Title, Headline: []rule.Row{{Label: "Wheel", Value: says}},
		Views: []feed.View{{Name: "river", Title: "River", Panels: []feed.Panel{
			{Name: "notes", Kind: feed.NotesPanel, Width: feed.Full, Notes: []feed.Note{{Title: "Head", Value: "2 m"}}},
		}}},
		Below: []feed.Panel{}, Controls: []feed.Control{}, Verdicts: []rule.Verdict{}, Workings: []rule.Working{},
	}, nil
}

func (w wheel) Try(q *feed.Question) (feed.Page, error) { return w.Size(q) }

func (wheel) Brief(*feed.Question) (string, []rule.Verdict, error) { return says, nil, nil }

func (wheel) Paper(*feed.Question) (feed.Paper, error) {
	return feed.Paper{
		Headline: []rule.Row{{Label: "Wheel", Value: says}},
	}, nil
}

func (wheel) Reversal() string { return "turn the river round" }

// ask asks a server and reads its answer.
func ask(t *testing.T, h http.Handler, method, path, body string, into any) {
	t.Helper()
	r := httptest.NewRequest(method, "http://127.0.0.1:8420/api"+path, strings.NewReader(body))
	r.Header.Set("Content-Type", "application/json")
	w := httptest.NewRecorder()
	h.ServeHTTP(w, r)
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	require.NoError(t, json.Unmarshal(w.Body.Bytes(), into))
}

// One registration, and nothing else: the way is listed, compared, sized, taken, briefed
// on the card and printed.
func TestAnyWayIsShownEverywhere(t *testing.T) {
	feed.Register(wheel{singlephase.Way})
	ctx, now := context.Background(), time.Now
	st, err := store.Open(ctx, filepath.Join(t.TempDir(), "test.db"), now)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, st.Close()) })
	shops, err := demo.Files.ReadFile("tarn-hollow.json")
	require.NoError(t, err)
	file, problems := shop.ReadFile(shops)
	require.Empty(t, problems)
	_, err = st.Import(ctx, file, store.Choice{})
	require.NoError(t, err)
	h := server.New(server.Options{Store: st, Now: now, Log: slog.New(slog.DiscardHandler)})

	var choices server.Choices
	ask(t, h, "GET", "/choices", "", &choices)
	assert.Contains(t, choices.Routes, feed.Info{Name: "water-wheel", Title: "Water wheel", Family: "river"})

	const motor = "/motors/tarn-shaper-m1"
	var routes compare.Answer
	ask(t, h, "POST", motor+"/routes", text(t, feed.Matters{}), &routes)
	assert.Equal(t, "water-wheel", routes.Recommended, "nothing costs less")
	assert.Equal(t, "Water wheel", routes.Routes[0].Title)
	assert.Equal(t, feed.Size{Name: "wheel_metres", Title: "wheel", Value: 4, Unit: "m"}, routes.Routes[0].Takes[0])

	var page feed.Page
	ask(t, h, "GET", motor+"/ways/water-wheel", "", &page)
	assert.Equal(t, says, page.Headline[0].Value)

	var before, after server.MotorView
	var machine server.MachinePage
	ask(t, h, "GET", "/machines/tarn-shaper", "", &machine)
	before = machine.Motors[0]
	before.Way.Route = "water-wheel"
	ask(t, h, "PUT", motor+"/way", text(t, map[string]any{"version": before.Versions.Way, "value": before.Fed}), &after)
	assert.Equal(t, "water-wheel", after.Way.Route)

	cards := server.ShopPage{Pending: true}
	for cards.Pending {
		cards = server.ShopPage{}
		ask(t, h, "GET", "/shops/tarn-hollow", "", &cards)
	}
	assert.Contains(t, text(t, cards), says)

	var made sheet.Sheet
	ask(t, h, "GET", motor+"/sheet", "", &made)
	assert.Equal(t, "Water wheel", made.Route)
	assert.Len(t, made.Drawings, 2)
	assert.Contains(t, text(t, made.Cautions), "turn the river round")
	assert.Contains(t, text(t, made.Sections), "Water wheel, this sheet")

	exported, err := st.Export(ctx)
	require.NoError(t, err)
	_, problems = shop.ReadFile([]byte(text(t, exported)))
	assert.Empty(t, problems, "and read again")
}

func text(t *testing.T, value any) string {
	t.Helper()
	b, err := json.Marshal(value)
	require.NoError(t, err)
	return string(b)
}
