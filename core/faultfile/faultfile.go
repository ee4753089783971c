// Package faultfile reads the open format of symptoms to diagnose, and answers it.
package faultfile

import (
	"sync"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"brackmoor/core/diagnose"
	"brackmoor/core/feed"
	"brackmoor/core/network"
	"brackmoor/core/plate"
	"brackmoor/core/rule"
	"brackmoor/core/strict"
	"brackmoor/core/study"
	"brackmoor/docs/schema"
)

// compiled is the published schema, which is also what is enforced.
var compiled = sync.OnceValue(func() *jsonschema.Schema { return strict.Compile(schema.Diagnose, schema.Plate) })

// The formats that are read and written.
const (
	Format    = "brackmoor.diagnose/1"
	Diagnosed = "brackmoor.diagnosis/1"
)

// File is a machine on its way, and what is seen of it.
type File struct {
	Format     string         `json:"format"`
	Supply     network.Supply `json:"supply"`
	Way        string         `json:"way"`
	Plate      plate.Sheet    `json:"plate"`
	Volts      *float64       `json:"connection_volts"`
	Capacitors struct {
		Run     float64 `json:"run_microfarad"`
		Start   float64 `json:"start_microfarad"`
		Between string  `json:"between"`
	} `json:"capacitors"`
	Idler *struct {
		Plate plate.Sheet `json:"plate"`
		Volts *float64    `json:"connection_volts"`
		AC    float64     `json:"ac_microfarad"`
		BC    float64     `json:"bc_microfarad"`
	} `json:"idler"`
	Symptoms []string `json:"symptoms"`
	Readings []struct {
		State string              `json:"state"`
		Share *float64            `json:"load_share"`
		Volts map[string]*float64 `json:"volts"`
		Ohms  map[string]*float64 `json:"ohms"`
		Amps  struct {
			Supply  *float64            `json:"supply"`
			Machine map[string]*float64 `json:"machine"`
			Idler   map[string]*float64 `json:"idler"`
		} `json:"amps"`
	} `json:"readings"`
	Looked []diagnose.Looked `json:"looked"`
}

// Answer is the causes, the likeliest first, and the next look.
type Answer struct {
	Format string `json:"format"`
	diagnose.Answer
}

// Read understands a file and studies its plates.
func Read(text []byte) (c diagnose.Case, problems rule.Problems) {
	var f File
	if problems = strict.Read(text, compiled(), &f); problems != nil {
		return c, problems
	}
	f.Supply.Phases = 1
	st, found := study.OfSheet(f.Supply, f.Plate, f.Volts)
	problems = append(problems, found.Under("$.plate")...)
	c = diagnose.Case{
		Supply: f.Supply, Run: f.Capacitors.Run, Start: f.Capacitors.Start, On: f.Capacitors.Between,
		Symptoms: f.Symptoms, Looked: f.Looked,
	}
	if c.On == "" {
		c.On = "ac"
	}
	if w, ok := feed.ByName(f.Way); f.Way != "" && !ok {
		problems.Say("$.way", "there is no way of feeding %q", f.Way)
	} else if _, idled := w.(feed.Idled); ok && idled != (f.Idler != nil) {
		problems.Say("$.idler", "%s and an idler go together, and only they do", w.Info().Title)
	}
	if f.Idler != nil {
		idler, found := study.OfSheet(f.Supply, f.Idler.Plate, f.Idler.Volts)
		problems = append(problems, found.Under("$.idler.plate")...)
		if found == nil {
			c.Idler = new(idler.Machine.NetworkMotor("idler"))
		}
		c.AC, c.BC = f.Idler.AC, f.Idler.BC
	}
	for _, p := range c.Check() {
		problems.Say("$."+p.Path, "%s", p.Says)
	}
	for _, r := range f.Readings {
		c.Readings = append(c.Readings, diagnose.Reading{
			State: r.State, Share: r.Share, Volts: there(r.Volts), Ohms: there(r.Ohms), Machine: there(r.Amps.Machine),
			Idler: there(r.Amps.Idler), Supply: r.Amps.Supply,
		})
	}
	if problems != nil {
		return diagnose.Case{}, problems
	}
	c.Of(&st.Machine)
	return c, nil
}

// there are the figures that are not null.
func there(all map[string]*float64) map[string]float64 {
	list := map[string]float64{}
	for at, value := range all {
		if value != nil {
			list[at] = *value
		}
	}
	return list
}

// Solve weighs the causes of a case.
func Solve(c *diagnose.Case) Answer { return Answer{Diagnosed, diagnose.Diagnose(c)} }

// Known is everything that can be said and answered: causes, symptoms, and looks.
type Known struct {
	Causes   []diagnose.Cause   `json:"causes" nullable:"false"`
	Symptoms []diagnose.Symptom `json:"symptoms" nullable:"false"`
	Looks    []diagnose.Look    `json:"looks" nullable:"false"`
}

// List is what is known.
func List() Known { return Known{diagnose.Causes(), diagnose.Symptoms, diagnose.Looks} }
