package spice_test

import (
	"fmt"
	"math"
	"os/exec"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"brackmoor/core/casefile"
	"brackmoor/core/waveform"
	"brackmoor/sheet/spice"
)

// BenchmarkAgainstNgspice times the core and ngspice on one linear case at equal error:
// two motors with core loss on a made leg, one of them brought in while the other runs.
// Each is compared with its own fine reference in the speeds and the amps of line a at
// forty instants; ngspice's time at the core's error lies between those of two of its
// steps. What ngspice takes to begin, on a netlist of one resistor, is taken off.
func BenchmarkAgainstNgspice(b *testing.B) {
	if _, err := exec.LookPath("ngspice"); err != nil {
		b.Skip("make ngspice installs it")
	}
	second := strings.Replace(
		fmt.Sprintf(motorText, `"inertia_kgm2": 0.01, "closed": false,`, coreLoss),
		`"m"`,
		`"n"`,
		1,
	)
	d, problems := casefile.Read(
		[]byte(
			waveCase(
				1,
				house,
				fmt.Sprintf(motorText, `"inertia_kgm2": 0.05, "initial_rpm": 1790,`, coreLoss)+", "+second,
				run60,
				`{"at_s": 0.25, "switch": "n", "to": "closed"}`,
			),
		),
	)
	require.Empty(b, problems)
	netlist, err := spice.Netlist(d)
	require.NoError(b, err)
	const instants = 40
	const every = 1.0 / instants

	ours := func(tolerance, sample float64) []float64 {
		c := d.Waveform
		c.Tolerance, c.SampleSeconds = tolerance, sample
		r, err := waveform.Solve(c)
		require.NoError(b, err)
		var values []float64
		if r.Series != nil {
			for _, id := range []string{"m", "n"} {
				s := r.Series.Motors[id]
				for k := 1; k < instants; k++ {
					values = append(values, s.RPM[k]/1800, s.Amps.A[k]/60)
				}
			}
		}
		return values
	}
	// The measurements of the netlist are put off for those of the instants.
	measures := ""
	for m := range 2 {
		for k := 1; k < instants; k++ {
			measures += fmt.Sprintf(
				"meas tran w%d_%d FIND v(m%dw) AT=%.9g\nmeas tran i%d_%d FIND v(m%disa) AT=%.9g\n",
				m,
				k,
				m,
				float64(k)*every,
				m,
				k,
				m,
				float64(k)*every,
			)
		}
	}
	run := regexp.MustCompile(`(?m)^tran .*$`)
	meas := regexp.MustCompile(`(?m)^meas .*\n`)
	theirs := func(steps float64) ([]float64, time.Duration) {
		step := 1 / 60.0 / steps
		text := run.ReplaceAllString(
			meas.ReplaceAllString(netlist, ""),
			fmt.Sprintf("tran %.9g 1 0 %.9g uic\n%s", step, step, measures),
		)
		found, took := simulate(b, text)
		var values []float64
		for m := range 2 {
			for k := 1; k < instants; k++ {
				values = append(
					values,
					found[fmt.Sprintf("w%d_%d", m, k)]/(60*math.Pi),
					found[fmt.Sprintf("i%d_%d", m, k)]/60,
				)
			}
		}
		return values, took
	}
	apart := func(a, b []float64) float64 {
		worst := 0.0
		for i := range a {
			worst = math.Max(worst, math.Abs(a[i]-b[i]))
		}
		return worst
	}
	_, begins := simulate(b, "* nothing\nR1 1 0 1\nV1 1 0 1\n.control\ntran 0.1 1\nquit\n.endc\n.end\n")
	reference := ours(1e-8, every)
	fine, _ := theirs(6400)
	b.Logf("the two references are %.2g apart", apart(reference, fine))
	coarse := ours(0, every)
	mine := apart(coarse, reference)
	began := time.Now()
	const rounds = 20
	for range rounds {
		ours(0, 0)
	}
	took := time.Since(began) / rounds
	var lastError, lastTime, equal float64
	for _, steps := range []float64{50, 100, 200, 400, 800, 1600} {
		values, whole := theirs(steps)
		seconds, wrong := (whole - begins).Seconds(), apart(values, fine)
		b.Logf("ngspice at %4.0f steps a cycle: error %.2g in %.0f ms", steps, wrong, 1000*seconds)
		if wrong <= mine && equal == 0 {
			equal = seconds
			if lastError > 0 {
				share := math.Log(lastError/mine) / math.Log(lastError/wrong)
				equal = math.Exp(math.Log(lastTime) + share*math.Log(seconds/lastTime))
			}
		}
		lastError, lastTime = wrong, seconds
	}
	b.Logf("the core: error %.2g in %.1f ms", mine, 1000*took.Seconds())
	if equal == 0 {
		equal = lastTime // it does not reach the core's error at all: its finest step, then
	}
	for b.Loop() {
		ours(0, 0)
	}
	b.ReportMetric(equal*1000, "ngspice-ms")
	b.ReportMetric(equal/took.Seconds(), "times-faster")
}
