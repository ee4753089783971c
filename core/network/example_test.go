package network_test

import (
	"fmt"

	"brackmoor/core/motor"
	"brackmoor/core/network"
)

// A motor on two lines, with a run capacitor from line a to the made leg c: the legs that
// come of it, and what each winding carries.
func ExampleSolve() {
	c := network.Case{
		Supply: network.Supply{Phases: 1, Volts: 240, Hertz: 60},
		Motors: []network.Motor{{
			ID: "m", Poles: 4, RatedHertz: 60,
			Circuit: motor.Circuit{R1Ohm: 0.6, X1Ohm: 1.2, XmOhm: 30, Cages: []motor.Cage{{ROhm: 0.5, XOhm: 1.9}}},
			Load:    &network.Load{Kind: "power", Watts: 1000},
		}},
		Capacitors: []network.Capacitor{{ID: "run", Between: network.AC, Microfarad: 50}},
	}
	if problems := c.Validate(); len(problems) > 0 {
		fmt.Println(problems)
		return
	}
	r, err := network.Solve(c)
	if err != nil {
		fmt.Println(err)
		return
	}
	fmt.Printf("ab %.0f V, bc %.0f V, ca %.0f V\n", r.Volts.AB, r.Volts.BC, r.Volts.CA)
	fmt.Printf("%.1f A, %.1f A and %.1f A\n", r.Motors[0].LineAmps.A, r.Motors[0].LineAmps.B, r.Motors[0].LineAmps.C)
	// Output:
	// ab 240 V, bc 235 V, ca 234 V
	// 5.5 A, 5.5 A and 4.4 A
}
