package circuit

import (
	"strconv"
	"strings"
)

// Interlocks keep what an end feeds from running beside other machines: of each set of them the break contacts of
// their contactors stand side by side, so that the last of them to come in leaves no way. Of is the motor or drive
// that is kept.
func (d *Draft) Interlocks(class Class, end string, of ...string) string {
	for i, set := range d.How.Apart {
		name := "set " + strconv.Itoa(i+1)
		first := ""
		for _, machine := range set {
			s := d.Add("S", Part{
				Kind: Interlock, Name: strings.TrimSpace(machine), Function: name, Stops: of,
			}, "21 22")
			if first == "" {
				first = s
				d.Wire(class, end, s+":21")
				continue
			}
			d.Wire(class, first+":21", s+":21")
			d.Wire(class, first+":22", s+":22")
		}
		end = first + ":22"
	}
	return end
}

// Starting is the function of an interlock that keeps what stands behind it from starting; what runs goes on.
const Starting = "starting"

// OthersOff are the break contacts of other machines' contactors, one behind the other, before an end: what starts
// there does not with one of them in. It gives the end before them.
func (d *Draft) OthersOff(machines []string, to string) string {
	if len(machines) == 0 {
		return to
	}
	name := strings.Join(machines, ", ")
	if len(machines) > 2 {
		name = strconv.Itoa(len(machines)) + " other machines"
	}
	s := d.Add("S", Part{Kind: Interlock, Name: name, Function: Starting}, "21 22")
	d.Wire(Control, s+":22", to)
	return s + ":21"
}

// Own are the auxiliary contacts that a contactor has for the interlocks of other machines: one a machine, from a group
// of contacts on.
func (d *Draft) Own(from int) string {
	var marks []string
	machines := map[string]bool{}
	for _, set := range d.How.Apart {
		for _, m := range set {
			if !machines[m] && from <= 8 {
				marks = append(marks, strconv.Itoa(10*from+1), strconv.Itoa(10*from+2))
				from++
			}
			machines[m] = true
		}
	}
	return strings.Join(marks, " ")
}

// SafetyRelay puts one between what stops and what it stops: both channels of an emergency stop or a guard, and a reset
// behind break contacts of what it drops, which is let go of before it comes in. Feed are the ends that it is fed from.
func (d *Draft) SafetyRelay(feed Coils, class Class, stop string, watched ...string) string {
	r := d.Add("K", Part{Kind: SafetyRelay, Name: "safety relay", CoilVolts: feed.Volts},
		"A1 A2 S11 S12 S21 S22 S33 S34 13 14 23 24")
	d.Wire(class, feed.Hot, r+":A1")
	d.Wire(class, r+":A2", feed.Back)
	d.Wire(LowVoltage, r+":S11", stop+":11")
	d.Wire(LowVoltage, stop+":12", r+":S12")
	d.Wire(LowVoltage, r+":S21", stop+":21")
	d.Wire(LowVoltage, stop+":22", r+":S22")
	reset := d.Add("S", Part{Kind: PushButton, Function: "reset", Name: "reset"}, "13 14")
	end := r + ":S33"
	for _, k := range watched {
		d.Wire(LowVoltage, end, k+":21")
		end = k + ":22"
	}
	d.Wire(LowVoltage, end, reset+":13")
	d.Wire(LowVoltage, reset+":14", r+":S34")
	return r
}
