package drive

import "math"

// Carried is what a carrier costs: the ripple that it leaves in the motor's amps and the heat of it, in percent of the
// motor's losses at its plate, and how much of its amps the drive gives for good.
type Carried struct {
	KHz         float64 `json:"khz"`
	RippleAmps  float64 `json:"ripple_amps"`
	HeatPercent float64 `json:"motor_heat_percent"`
	Share       float64 `json:"drive_share"`
}

// Carriers that are usual, in kHz.
var usualCarriers = []float64{2, 4, 8, 12, 16}

// What a carrier does to a usual drive (shop practice, between published derating curves of small drives): its sink
// warms by sinkRise at its amps and carrierKHz, by carrierRise of that more for each kHz above, and bears SinkMost in
// air of hotAir. skin is how many times their ohms at its own frequency a motor's winding and bars have for the ripple.
const (
	sinkRise    = 32.0 // K
	carrierRise = 0.12
	hotAir      = 40.0
	skin        = 4.0
)

// SinkRise is what the heat sink of a usual drive warms by at a share of its amps, in kelvin.
func SinkRise(share, khz float64) float64 {
	return sinkRise * share * math.Max(0.5, 1+carrierRise*(khz-carrierKHz))
}

// SinkMost is what the heat sink of a usual drive bears, in °C (shop practice).
const SinkMost = 85.0

// Carriers are what each usual carrier costs a motor at four fifths of its speed. The ripple goes with the time of a
// pulse, its heat with the square of it.
func (in Input) Carriers() (list []Carried) {
	m := in.NetworkMotor("motor")
	ohm := m.Circuit.R1Ohm
	for _, g := range m.Circuit.Cages {
		ohm += g.ROhm / float64(len(m.Circuit.Cages))
	}
	const share = 0.8
	volts := share * math.Min(in.Plate.Volts.Value, in.most())
	for _, khz := range usualCarriers {
		p, err := Pulses{
			BusVolts:     math.Sqrt2 * in.most(),
			Volts:        volts,
			Hertz:        share * in.Plate.Hertz.Value,
			CarrierHertz: 1000 * khz,
			Slip:         1 - in.Plate.RPM.Value/in.SynchronousRPM()*in.Supply.Hertz/in.Plate.Hertz.Value,
		}.Output(m)
		if err != nil {
			continue
		}
		list = append(list, Carried{
			KHz: khz, RippleAmps: p.RippleRMS,
			HeatPercent: 100 * 3 * p.RippleRMS * p.RippleRMS * skin * ohm / in.RatedLosses(),
			Share:       math.Min(1, (SinkMost-hotAir)/SinkRise(1, khz)),
		})
	}
	return list
}
