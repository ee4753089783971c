package banked

import (
	"fmt"
	"math"

	"brackmoor/core/capacitor"
	"brackmoor/core/feed"
	"brackmoor/core/network"
)

// points are a curve's, x and y of each of n.
func points(n int, at func(i int) (x, y float64)) []*[2]float64 {
	list := make([]*[2]float64, n)
	for i := range n {
		x, y := at(i)
		list[i] = feed.At(x, y)
	}
	return list
}

// torqueChart is torque against speed: with the run capacitor, with the start capacitor
// too, and the load.
func torqueChart(a *capacitor.Answer) *feed.Chart {
	l := &a.Live
	most := 150.0
	for _, p := range l.Curve {
		most = max(most, p.Run, p.Start, p.Load)
	}
	of := func(value func(capacitor.CurvePoint) float64) []*[2]float64 {
		return points(len(l.Curve), func(i int) (float64, float64) { return l.Curve[i].RPM, value(l.Curve[i]) })
	}
	c := &feed.Chart{
		Name: "torque", Keys: true, Marks: []feed.Mark{},
		X: feed.Axis{Title: "rpm", Most: a.SynchronousRPM, Step: a.SynchronousRPM / 4},
		Y: feed.Axis{Most: math.Ceil(most/50) * 50, Step: 50},
		Label: fmt.Sprintf("Torque against speed: at standstill %.0f percent of rated, load %.0f percent",
			l.Curve[0].Start, l.Curve[0].Load),
	}
	if most > 260 {
		c.Y.Step = 100
	}
	if l.StartMicrofarad > 0 {
		c.Lines = append(c.Lines, feed.Line{Title: "run + start", Style: feed.SecondLine,
			Points: of(func(p capacitor.CurvePoint) float64 { return p.Start })})
	}
	c.Lines = append(
		c.Lines,
		feed.Line{
			Title:  "run",
			Style:  feed.MainLine,
			Points: of(func(p capacitor.CurvePoint) float64 { return p.Run }),
		},
		feed.Line{Title: "load", Style: feed.AgainstLine,
			Points: of(func(p capacitor.CurvePoint) float64 { return p.Load })},
	)
	if l.CutOutRPM > 0 {
		c.Marks = append(c.Marks, feed.Mark{At: l.CutOutRPM, Title: "start out"})
	}
	return c
}

// heatChart is the hottest winding, in percent of plate amps, against the load.
func heatChart(l *capacitor.Live) *feed.Chart {
	top := 0.0
	line := feed.Line{Title: "hottest winding", Style: feed.MainLine, Points: []*[2]float64{}}
	for _, p := range l.Heat {
		if p.Percent == nil {
			line.Points = append(line.Points, nil)
			continue
		}
		top = max(top, *p.Percent)
		line.Points = append(line.Points, feed.At(100*p.LoadShare, *p.Percent))
	}
	c := &feed.Chart{
		Name: "heat", Label: "Hottest winding against load", Lines: []feed.Line{line}, Marks: []feed.Mark{},
		X: feed.Axis{Title: "load, % of plate output", Most: 100, Step: 25},
		Y: feed.Axis{Most: min(max(150, math.Ceil(top/50)*50), 300), Step: 50, Limit: 100},
	}
	if l.Load.Motor == network.Running {
		c.Dot = &feed.Dot{X: 100 * l.LoadShare, Y: l.Load.HottestPercent, Over: l.Load.Over}
	}
	return c
}

// runUpChart is a start through time: speed, and the hottest winding's amps.
func runUpChart(a *capacitor.Answer) *feed.Chart {
	up := &a.Live.RunUp
	end, amps := 1e-3, 100.0
	for _, p := range up.Points {
		end, amps = max(end, p.Seconds), max(amps, p.Percent)
	}
	n := len(up.Points)
	c := &feed.Chart{
		Name: "run-up", Label: "It does not come up", Marks: []feed.Mark{},
		Lines: []feed.Line{
			{Title: "rpm", Style: feed.SecondLine, Points: points(n, func(i int) (float64, float64) {
				return up.Points[i].Seconds, up.Points[i].RPM
			})},
			{
				Title: "hottest winding",
				Style: feed.BesideLine,
				Right: true,
				Points: points(n, func(i int) (float64, float64) {
					return up.Points[i].Seconds, up.Points[i].Percent
				}),
			},
		},
		X:     feed.Axis{Title: "seconds", Most: end},
		Y:     feed.Axis{Title: "rpm", Most: a.SynchronousRPM, Step: a.SynchronousRPM / 4},
		Right: &feed.Axis{Title: "%", Most: amps},
	}
	if up.CutOutSeconds != nil {
		c.Marks = append(c.Marks, feed.Mark{At: *up.CutOutSeconds, Title: "start out"})
	}
	if up.Seconds != nil {
		c.Label = fmt.Sprintf("It comes up in %.2f seconds", *up.Seconds)
	}
	return c
}

// sessionChart is temperatures over a session: the hottest winding against its class, and
// what the frame shows.
func sessionChart(h *capacitor.Heat) *feed.Chart {
	limit, end, most := h.Thermal.LimitC, 60.0, h.Thermal.LimitC
	for _, at := range h.Session {
		end, most = at.Minutes, max(most, at.Hottest())
	}
	n := len(h.Session)
	return &feed.Chart{
		Name: "session", Marks: []feed.Mark{},
		Label: fmt.Sprintf("Hottest winding %.0f °C, frame %.0f °C, class %s bears %.0f °C",
			h.HottestC, h.FrameC, h.Thermal.Class, limit),
		Lines: []feed.Line{
			{Title: "hottest winding", Style: feed.MainLine, Points: points(n, func(i int) (float64, float64) {
				return h.Session[i].Minutes, h.Session[i].Hottest()
			})},
			{Title: "frame", Style: feed.FaintLine, Points: points(n, func(i int) (float64, float64) {
				return h.Session[i].Minutes, h.Session[i].Frame
			})},
		},
		X: feed.Axis{Title: "minutes", Most: end, Step: end / 4},
		Y: feed.Axis{Title: "°C", Most: min(most, 2.5*limit), Limit: limit, LimitTitle: "class " + h.Thermal.Class},
	}
}
