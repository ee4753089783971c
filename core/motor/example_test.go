package motor_test

import (
	"fmt"

	"brackmoor/core/motor"
)

// A circuit is fitted to the rated point of a plate and gives it back.
func ExampleFitCircuit() {
	fit, err := motor.FitCircuit(motor.Target{
		Volts: 230, Hertz: 60, RPM: 1745, Amps: 9, OutputWatts: 2237, PowerFactor: 0.76, Poles: 4,
		LockedRotorAmps: motor.Goal{Typical: 6}, LockedRotorTorque: motor.Goal{Typical: 2},
		Breakdown: motor.Goal{Typical: 2.5},
	})
	if err != nil {
		fmt.Println(err)
		return
	}
	lines := motor.Balanced{Volts: 230, Hertz: 60, Poles: 4, FrictionWatts: fit.FrictionWatts}
	rated := lines.At(&fit.Circuit, 1-1745.0/1800)
	fmt.Printf("%.1f A, %.0f W at the shaft, power factor %.2f\n", rated.LineAmps, rated.ShaftWatts, rated.PowerFactor)
	// Output:
	// 9.0 A, 2237 W at the shaft, power factor 0.76
}

// Figures that contradict each other are refused with a sentence.
func ExampleTarget_Check() {
	err := motor.Target{
		Volts: 230, Hertz: 60, RPM: 1745, Amps: 2, OutputWatts: 2237, PowerFactor: 0.76, Poles: 4,
	}.Check()
	fmt.Println(err)
	// Output:
	// the plate's figures contradict each other: output 2237 W from 606 W input would be an efficiency of 369 percent
}
