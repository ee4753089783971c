package browser

import (
	"fmt"
	"slices"
	"testing"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// BenchmarkFirstPaint is the time from an address to the first paint, on a processor slowed four times, nothing of it
// kept; how long it is until the Floor stands drawn; and what the first scripts weigh, as they are sent.
func BenchmarkFirstPaint(b *testing.B) {
	p := open(b, "tarn-hollow.json")
	_, err := chromedp.Call(p.ctx, emulation.SetCPUThrottlingRate, emulation.SetCPUThrottlingRateParams{Rate: 4})
	require.NoError(b, err)
	_, err = chromedp.Call(p.ctx, network.SetCacheDisabled, network.SetCacheDisabledParams{CacheDisabled: true})
	require.NoError(b, err)
	for b.Loop() {
		var times, drawn []float64
		var kilobytes float64
		for range 20 {
			p.visit("/")
			p.until("document.querySelector('.floor-drawing .box')")
			drawn = append(drawn, eval[float64](p, "performance.now()"))
			times = append(
				times,
				eval[float64](p, "performance.getEntriesByName('first-contentful-paint')[0].startTime"),
			)
			kilobytes = eval[float64](p, `fetch('/').then(a => a.text()).then(html => {
				const first = new Set([...html.matchAll(/assets\/[^"]+\.js/g)].map(m => m[0]));
				return performance.getEntriesByType('resource')
					.filter(e => first.has(new URL(e.name).pathname.slice(1)))
					.reduce((sum, e) => sum + e.encodedBodySize, 0) / 1000;
			})`)
		}
		slices.Sort(times)
		slices.Sort(drawn)
		b.ReportMetric(times[10], "p50-ms")
		b.ReportMetric(times[18], "p95-ms")
		b.ReportMetric(drawn[18], "drawn-p95-ms")
		b.ReportMetric(kilobytes, "kB")
	}
}

// byHand has, in the page, what times a hand by the browser's own clock: shown acts and is the time to the frame in
// which the picture is another; told is what times say.
const byHand = `
	const frame = () => new Promise(requestAnimationFrame);
	const frames = async many => { for (let i = 0; i < many; i += 1) await frame(); };
	const shown = async (picture, act) => {
		const before = picture();
		const start = performance.now();
		act();
		while (picture() === before && performance.now() - start < 2000) await frame();
		return performance.now() - start;
	};
	const press = (on, key) => {
		const keyCode = { ArrowRight: 39, ArrowLeft: 37, PageUp: 33, PageDown: 34 }[key];
		on.dispatchEvent(new KeyboardEvent('keydown', { key, keyCode, which: keyCode, bubbles: true }));
	};
	const told = times => {
		times.sort((x, y) => x - y);
		const of = share => times[Math.floor(times.length * share)];
		return { P50: of(0.5), P95: of(0.94), Worst: times.at(-1) };
	};`

// times are those of many moves, in milliseconds.
type times struct{ P50, P95, Worst float64 }

func (t times) report(b *testing.B) {
	b.ReportMetric(t.P50, "p50-ms")
	b.ReportMetric(t.P95, "p95-ms")
	b.ReportMetric(t.Worst, "worst-ms")
}

// BenchmarkSliderToPicture is the time from the slider's move to the redrawn
// picture: from the key that moves a slider to the frame after the pictures have
// changed, on each kind of route that has one. The slider goes one way, each place
// of it new, and back over what was answered; and, the page fresh, by turns so that
// each place comes sudden, not where it was going.
func BenchmarkSliderToPicture(b *testing.B) {
	for _, c := range []struct{ name, path, slider, picture, there, back, sudden string }{
		{"capacitors", "/machines/tarn-shaper/size", "slide-run_microfarad",
			"document.querySelector('[data-picture=triangle]').ariaLabel + " +
				"document.querySelector('[data-picture=windings]').ariaLabel",
			"ArrowRight", "ArrowLeft", "PageUp ArrowRight"},
		{"rotary", "/machines/tarn-hobber/size", "slide-balance_ac_microfarad",
			"document.querySelector('[data-panel=states] tbody').textContent",
			"ArrowRight", "ArrowLeft", "PageUp ArrowRight"},
		{"drive", "/machines/tarn-borer/size", "slide-load_share",
			"document.querySelector('[data-panel=bus]').outerHTML",
			"ArrowLeft", "ArrowRight", "PageDown ArrowLeft"},
	} {
		b.Run(c.name, func(b *testing.B) {
			p := open(b, "tarn-hollow.json")
			fresh := func() {
				p.visit(c.path)
				p.until("document.querySelector('[aria-labelledby=" + c.slider + "]')")
				p.until("!!(" + c.picture + ")")
			}
			went := func(keys string, moves int) times {
				return eval[times](p, fmt.Sprintf(`(async () => {%s
					const slider = document.querySelector('[aria-labelledby=%s]');
					const picture = () => %s;
					const keys = '%s'.split(' ');
					slider.focus();
					const times = [];
					for (let i = 0; i < %d; i += 1) {
						await frames(4);
						times.push(await shown(picture, () => press(slider, keys[i %% keys.length])));
					}
					return told(times);
				})()`, byHand, c.slider, c.picture, keys, moves))
			}
			for b.Loop() {
				fresh()
				there, back := went(c.there, 40), went(c.back, 40)
				fresh()
				sudden := went(c.sudden, 26)
				there.report(b)
				b.ReportMetric(back.P50, "seen-p50-ms")
				b.ReportMetric(sudden.P50, "sudden-p50-ms")
				b.ReportMetric(sudden.P95, "sudden-p95-ms")
			}
		})
	}
}

// BenchmarkScopePan is the time from a key that moves the scope, its hundred thousand samples behind it, to the frame
// that shows it: over the whole of them there and back, looked at eight times closer. What looks closer and wider is
// told apart: it asks for finer samples at once.
func BenchmarkScopePan(b *testing.B) {
	p := open(b, "tarn-hollow.json")
	p.visit("/machines/tarn-shaper/size")
	p.until("document.querySelector('.band')")
	p.press("Scope")
	p.until("document.querySelector('.scope-place')?.dataset.seen")
	type sample struct {
		times
		Zoom, Moves float64
	}
	for b.Loop() {
		got := eval[sample](p, `(async () => {
			const place = document.querySelector('.scope-place');
			place.focus();
			const went = async key => {
				const before = place.dataset.seen;
				const start = performance.now();
				place.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
				while (place.dataset.seen === before && performance.now() - start < 500)
					await new Promise(next => requestAnimationFrame(next));
				return place.dataset.seen === before ? 0 : performance.now() - start;
			};
			const pans = [];
			const zooms = [];
			for (const key of ['+', '+', '+']) zooms.push(await went(key));
			for (const key of ['ArrowRight', 'ArrowLeft'])
				for (let time; (time = await went(key)); ) pans.push(time);
			for (const key of ['-', '-', '-']) zooms.push(await went(key));
			for (const times of [pans, zooms]) times.sort((x, y) => x - y);
			const of = share => pans[Math.floor(pans.length * share)];
			return { P50: of(0.5), P95: of(0.95), Worst: pans.at(-1), Zoom: zooms.at(-1), Moves: pans.length };
		})()`)
		require.Greater(b, got.Moves, 30.0)
		got.report(b)
		b.ReportMetric(got.Zoom, "zoom-worst-ms")
	}
}

// BenchmarkFlipToPicture is the time from a switch of the Floor thrown to the frame that shows what comes of it; the
// pointer was on it for 150 ms before, as a hand's is.
func BenchmarkFlipToPicture(b *testing.B) {
	onFloor(b, `
		const flips = ['Metal shaper, on', 'Dust extractor, on', 'Jig borer, on', 'Tool & cutter grinder, on'];
		for (let i = 0; i < 40; i += 1) {
			await frames(28);
			const flip = document.querySelector('[role=switch][aria-label="' + flips[i % flips.length] + '"]');
			flip.dispatchEvent(new PointerEvent('pointerover', { bubbles: true })); // a hand comes first
			await frames(9);
			times.push(await shown(picture, () => flip.click()));
		}`)
}

// BenchmarkTurnToPicture is the time from a motor's load turned on the Floor to the frame that shows what comes of it,
// each place of it new, on the loads of three machines that run; the focus was on it for four frames before.
func BenchmarkTurnToPicture(b *testing.B) {
	onFloor(b, `
		for (const machine of ['Metal shaper', 'Dust extractor', 'Gear hobber']) {
			const flip = document.querySelector('[role=switch][aria-label="' + machine + ', on"]');
			if (flip.ariaChecked !== 'true') flip.click();
			await frames(60);
			const load = document.querySelector('[role=slider][aria-label="Load of ' + machine + '"]');
			load.focus();
			for (let i = 0; i < 11; i += 1) {
				await frames(4);
				times.push(await shown(picture, () => press(load, 'ArrowLeft')));
			}
		}`)
}

// onFloor reports the times that moves on the Floor gather.
func onFloor(b *testing.B, moves string) {
	p := open(b, "tarn-hollow.json")
	p.visit("/")
	p.until("document.querySelector('.floor-drawing .box')")
	for b.Loop() {
		eval[times](p, `(async () => {`+byHand+`
			const picture = () => document.querySelector('.floor-drawing .box.service').innerText;
			const times = [];`+moves+`
			return told(times);
		})()`).report(b)
	}
}
