package capacitor

import (
	"fmt"

	"brackmoor/core/network"
	"brackmoor/core/quantity"
	"brackmoor/core/rule"
)

// startWorkings are the arithmetic behind the figures of a start and of a session.
func (r *rig) startWorkings(l *Live) (list []rule.Working) {
	up, s, h := &l.RunUp, l.RunUp.Shaft, &l.Session
	t := h.Thermal
	inertia := rule.Term{
		Name:   "inertia",
		Value:  s.RotorKgm2 + s.LoadKgm2,
		Unit:   "kg·m²",
		Origin: s.Origin,
		Source: s.Source,
	}
	list = append(
		list,
		rule.Working{
			Figure: "inertia",
			Title:  "Inertia to bring up",
			Shown:  quantity.Figures(inertia.Value, 2) + " kg·m²",
			Rules:  []string{"start.inertia"},
			Steps: []rule.Step{
				{Formula: "rotor + load at the motor's shaft", Terms: []rule.Term{
					{
						Name:   "rotor",
						Value:  s.RotorKgm2,
						Unit:   "kg·m²",
						Origin: rule.Assumed,
						Source: "usual rotor of this output and poles",
					},
					{
						Name:   "load",
						Value:  s.LoadKgm2,
						Unit:   "kg·m²",
						Origin: s.Origin,
						Source: s.Source,
					},
				}, Result: inertia.Value, Unit: "kg·m²", Source: "inertia through belts and gears goes as the speed " +
					"ratio squared"},
			},
		},
	)
	if s.DragWatts > 0 {
		w := &list[0]
		w.Steps = append(
			w.Steps,
			rule.Step{
				Formula: "J = (drag W / ω₀) · t / ω₀, from the stop by stopwatch",
				Terms:   []rule.Term{{Name: "drag", Value: s.DragWatts, Unit: "W", Origin: s.Origin, Source: s.Source}},
				Result:  inertia.Value,
				Unit:    "kg·m²",
				Source:  "J·dω/dt = −T, constant drag",
			},
		)
	}
	coming := r.in.Load.ComingUp(l.LoadShare)
	if up.Seconds != nil {
		list = append(
			list,
			rule.Working{
				Figure: "run-up",
				Title:  "Time to speed",
				Shown:  quantity.Figures(*up.Seconds, 2) + " s",
				Rules:  []string{"start.slow", "start.crawls"},
				Steps: []rule.Step{
					{
						Formula: "t = ∫ J dω / (T motor − T load − T friction), to 90 % of synchronous speed, the " +
							"network solved at each speed",
						Terms: []rule.Term{
							inertia,
							{
								Name:   "load while coming up",
								Value:  100 * coming,
								Unit:   "% of rated torque",
								Origin: rule.Assumed,
								Source: r.in.Load.Title,
							},
							chosen("run", l.RunMicrofarad, "µF"),
							chosen("start", l.StartMicrofarad, "µF"),
						},
						Result: *up.Seconds,
						Unit:   "s",
						Source: model,
					},
				},
			},
		)
		hottest := max(up.heat[0], up.heat[1], up.heat[2])
		list = append(
			list,
			rule.Working{
				Figure: "starts-per-hour",
				Title:  "Starts an hour",
				Shown:  quantity.Fixed(up.StartsPerHour, 0),
				Rules:  []string{"start.heat", "start.seldom"},
				Steps: []rule.Step{
					{
						Formula: "heat of a start in the hottest winding, ∫ (amps / rated amps)² dt",
						Terms:   []rule.Term{computed("seconds to speed", *up.Seconds, "s")},
						Result:  hottest,
						Unit:    "s",
						Source:  model,
					},
					{
						Formula: "rise = that / winding's time constant · its rise over the frame at plate load",
						Terms: []rule.Term{
							{
								Name:   "time constant",
								Value:  t.WindingMinutes,
								Unit:   "min",
								Origin: rule.Assumed,
								Source: "small enclosed machines",
							},
							{
								Name:   "rise over the frame",
								Value:  t.WindingRiseK - t.FrameRiseK,
								Unit:   "K",
								Origin: rule.Assumed,
								Source: "small enclosed machines",
							},
						},
						Result: up.RiseK,
						Unit:   "K",
						Source: "adiabatic heating",
					},
					{
						Formula: "most starts an hour, evenly spread beside the load, with the hottest winding " +
							"within its class after each",
						Terms: []rule.Term{
							{
								Name:   "limit",
								Value:  t.LimitC,
								Unit:   "°C",
								Origin: classOrigin(h),
								Source: "class " + t.Class + ", IEC 60034-1",
							},
							r.loadTerm(l.LoadShare),
						},
						Result: up.StartsPerHour,
						Unit:   "an hour",
						Source: "two-body thermal model",
					},
				},
			},
		)
	}
	if l.Load.Motor == network.Running {
		usable := 0.0
		shown := "none"
		if h.Usable != nil {
			usable, shown = h.Usable.Watts, h.Usable.Words(r.in.Supply.Hertz)
		}
		duty := "continuous"
		if d := h.Duty; d.OffMinutes > 0 {
			duty = fmt.Sprintf("%s min on, %s off", quantity.Figures(d.OnMinutes, 3), quantity.Figures(d.OffMinutes, 3))
		}
		list = append(
			list,
			rule.Working{
				Figure: "session",
				Title:  "Hottest winding over the session",
				Shown:  fmt.Sprintf("%.0f °C", h.HottestC),
				Rules:  []string{"heat.past-class", "heat.frame-hides"},
				Steps: []rule.Step{
					{
						Formula: "each winding by its own amps squared into the frame, the frame by all losses into " +
							"the air; duty: " + duty,
						Terms: []rule.Term{
							{
								Name:   "air",
								Value:  t.AmbientC,
								Unit:   "°C",
								Origin: rule.Assumed,
								Source: "40 °C unless typed",
							},
							computed("hottest winding", l.Load.HottestPercent, "% of its rated amps"),
							{
								Name:   "rise at plate load",
								Value:  t.WindingRiseK,
								Unit:   "K",
								Origin: classOrigin(h),
								Source: "plate, or usual 80 K",
							},
							{
								Name:   "winding's time constant",
								Value:  t.WindingMinutes,
								Unit:   "min",
								Origin: rule.Assumed,
								Source: "small enclosed machines",
							},
							{
								Name:   "frame's time constant",
								Value:  t.FrameMinutes,
								Unit:   "min",
								Origin: rule.Assumed,
								Source: "small enclosed machines",
							},
						},
						Result: h.HottestC,
						Unit:   "°C",
						Source: "two-body thermal model",
					},
					{
						Formula: "the frame at the same time",
						Terms:   []rule.Term{},
						Result:  h.FrameC,
						Unit:    "°C",
						Source:  "two-body thermal model",
					},
				},
			},
			rule.Working{
				Figure: "usable-duty",
				Title:  "Usable for this duty",
				Shown:  shown,
				Rules:  []string{"heat.past-class"},
				Steps: []rule.Step{
					{
						Formula: "most shaft power with the hottest winding within its class over the session",
						Terms: []rule.Term{
							{
								Name:   "limit",
								Value:  t.LimitC,
								Unit:   "°C",
								Origin: classOrigin(h),
								Source: "class " + t.Class + ", IEC 60034-1",
							},
						},
						Result: usable,
						Unit:   "W",
						Source: "two-body thermal model",
					},
				},
			},
		)
	}
	return list
}

func classOrigin(h *Heat) rule.Origin {
	if h.Thermal.ClassAssumed {
		return rule.Assumed
	}
	return rule.Stated
}
