package plate_test

import (
	"fmt"

	"brackmoor/core/plate"
)

// A plate is read from text, completed for a supply, and every figure knows where it is
// from.
func ExampleFill() {
	typed := plate.ReadText("3 HP 230/460 V 9.0/4.5 A 60 HZ 1745 RPM").Typed()
	read, problems := plate.Read(typed)
	if len(problems) > 0 {
		fmt.Println(problems)
		return
	}
	filled, _ := plate.Fill(read, plate.Supply{Volts: 240, Hertz: 60})
	fmt.Printf("%.0f V, %.1f A (%s), %.0f poles (%s)\n", filled.Volts.Value, filled.Amps.Value, filled.Amps.Origin,
		filled.Poles.Value, filled.Poles.Origin)
	// Output:
	// 230 V, 9.0 A (stated), 4 poles (derived)
}
