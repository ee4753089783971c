package driven

import (
	"math"

	"brackmoor/core/drive"
	"brackmoor/core/feed"
	"brackmoor/core/network"
)

// Hang is the drive's front end; the motor has lines of its own behind it. Its amps are those at
// idle, at the load meant and at full output, and between them on straight lines.
func (w *Way) Hang(q *feed.Question, id string, share float64) (network.Circuit, error) {
	amps := feed.Shared(q, "hung "+w.About.Name, func() feed.Amps {
		if o := w.Outline(q); o != nil {
			return o.SupplyAmps
		}
		return feed.Amps{}
	})
	idle := q.Fit.FrictionWatts + idleShare*q.Watts()
	shaft := math.Max(idle, share*q.Watts())
	watts := shaft / q.Plate.Efficiency.Value / (1 - drive.Losses)
	r := network.Rectifier{
		ID: id, Between: network.AB, Watts: watts, DisplacementFactor: network.UsualDisplacement,
		TruePowerFactor: network.UsualTrue,
	}
	if amps.Idle != nil && amps.Load != nil && amps.Full != nil {
		points := [][2]float64{{idle, *amps.Idle}, {q.Share() * q.Watts(), *amps.Load}, {q.Watts(), *amps.Full}}
		taken := between(points, shaft)
		r.TruePowerFactor = math.Min(watts/(q.Supply.Volts*taken), r.DisplacementFactor)
	}
	return network.Circuit{ID: id + "-lines", Rectifiers: []network.Rectifier{r}}, nil
}

// between is what points give at x on the straight lines through them, on beyond their ends.
func between(points [][2]float64, x float64) float64 {
	i := 1
	for i < len(points)-1 && x > points[i][0] {
		i++
	}
	from, to := points[i-1], points[i]
	if to[0] <= from[0] {
		return to[1]
	}
	return from[1] + (to[1]-from[1])*(x-from[0])/(to[0]-from[0])
}
