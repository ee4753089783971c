package quantity_test

import (
	"fmt"

	"brackmoor/core/quantity"
)

// What stands on a plate is read as it stands, with a fraction and the unit close to it.
func ExampleParsePower() {
	watts, err := quantity.ParsePower("1 1/2hp")
	fmt.Printf("%.1f W %v\n", watts, err)
	_, err = quantity.ParsePower("3 horses")
	fmt.Println(err)
	// Output:
	// 1118.6 W <nil>
	// Output is read in hp, kW, W or PS; “horses” is none of them.
}

// A power is printed as its country's shops say it.
func ExamplePower() {
	fmt.Println(quantity.Power(2237.1, 60))
	fmt.Println(quantity.Power(2200, 50))
	// Output:
	// 3 hp
	// 2.2 kW
}
