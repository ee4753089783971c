package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"brackmoor/core/shop"
	"brackmoor/core/stock"
	"brackmoor/server"
)

// Stores are kept with their shop, doubtful parts are told, and what a circuit wants is reserved, given back or used
// up.
func TestStores(t *testing.T) {
	s := open(t, nil)
	own := shop.Own{Stores: []stock.Item{
		{ID: "fuse", Kind: "fuse", Name: "a", Count: 9, Amps: 1, Condition: "new"},
		{ID: "dc", Kind: stock.DC, Name: "b", Count: 1, Volts: 450},
	}}
	at := s.page("tarn-hollow").Shop
	var kept server.ShopHead
	s.ask("PUT", "/api/shops/tarn-hollow/own", text(t, map[string]any{"version": at.Version, "own": own})).json(&kept)
	var doubted []server.Doubted
	s.ask("GET", "/api/shops/tarn-hollow/stores/doubted", "").json(&doubted)
	require.Len(t, doubted, 1)
	assert.Equal(t, "dc", doubted[0].ID)

	take := func(do string) answer {
		return s.ask("POST", "/api/motors/tarn-shaper-m1/parts", text(t, map[string]any{"do": do}))
	}
	done := func(do string) (now server.ShopHead) {
		take(do).json(&now)
		return now
	}
	sum := func(h server.ShopHead, machine string) (n float64) {
		for _, i := range h.Own.Stores {
			if i.For == machine && i.Kind == "fuse" {
				n += i.Count
			}
		}
		return n
	}
	take("steal").problem(http.StatusUnprocessableEntity)
	now := done("reserve")
	assert.InDelta(t, 2, sum(now, "tarn-shaper"), 0)
	assert.InDelta(t, 7, sum(now, ""), 0)
	now = done("release")
	assert.InDelta(t, 9, sum(now, ""), 0)
	done("reserve")
	now = done("use")
	assert.InDelta(t, 0, sum(now, "tarn-shaper"), 0)
	assert.InDelta(t, 7, sum(now, ""), 0)

	bad := shop.Own{Stores: []stock.Item{{ID: "x", Kind: "rope", Name: "c", Count: 1}}}
	s.ask("PUT", "/api/shops/tarn-hollow/own", text(t, map[string]any{"version": now.Version, "own": bad})).
		problem(http.StatusUnprocessableEntity)
}
