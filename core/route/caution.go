package route

import "brackmoor/core/rule"

// Reversal says how a motor on a route is turned round: which lead, which two wires at
// which place, or which setting.
func Reversal(name string) string {
	switch {
	case name == RunCapacitor || name == StartRunCapacitor:
		return "move the capacitors' lead from one supply line to the other; exchanging the supply lines changes " +
			"nothing"
	case OfDrives(name):
		return "by the drive's direction input, or exchange two leads at the motor; never by a switch between drive " +
			"and motor"
	case name == SinglePhaseMotor:
		return "by its start winding's two leads, where they are brought out"
	}
	return "exchange two of the motor's leads behind the converter, never the made leg alone at a control"
}

// Cautions are those that stand on a route's sheet and drawing, whatever it is sized to.
func Cautions(name string) []rule.Verdict {
	ids := []string{"capacitor.charged", "always.made-leg", "always.overload", "capacitor.kind"}
	switch {
	case OfDrives(name):
		ids = []string{"drive.bus-charged", "drive.no-contactor", "drive.residual-current", "always.overload-by-drive"}
	case name == SinglePhaseMotor:
		ids = []string{"capacitor.charged", "always.overload-of-one-phase"}
	}
	list := []rule.Verdict{rule.Standing("always.isolate")}
	for _, id := range append(ids, "always.restart", "always.bonding") {
		list = append(list, rule.Standing(id))
	}
	turn := rule.Standing("always.reversal-stop")
	turn.Do = "To turn it round: " + Reversal(name) + "."
	return append(list, turn, rule.Standing("always.local-code"))
}
