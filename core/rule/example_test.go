package rule_test

import (
	"fmt"

	"brackmoor/core/rule"
)

// A rule is judged by its limit in the catalogue and spoken with the numbers that made it.
func ExampleSpeak() {
	seconds := 12.4
	if most := rule.Limit("start.slow", "most_seconds"); seconds > most {
		v := rule.Speak("start.slow", rule.Numbers{"seconds": seconds}, "A lighter load or more torque.",
			"It takes %.1f s to come up.", seconds)
		fmt.Println(v.Severity+":", v.Says, v.Do)
		fmt.Println(v.Numbers["limit_most_seconds"], "by", v.Source)
	}
	// Output:
	// caution: It takes 12.4 s to come up. A lighter load or more torque.
	// 10 by IEC 60947-4-1, trip class 10
}
