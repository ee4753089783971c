package drive_test

import (
	"encoding/json"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brackmoor/core/drive"
)

// The profiles that ship are sound, and hold as they ship what their registers may hold.
func TestShippedRegisters(t *testing.T) {
	for _, p := range drive.Profiles() {
		assert.Empty(t, p.Check(), p.Name)
		assert.NotEmpty(t, p.Registers)
		for i := range p.Registers {
			r := &p.Registers[i]
			raw, err := r.Encode(r.Decode(r.Ships))
			if r.Access == drive.ReadWrite {
				require.NoError(t, err, "%s %s", p.Name, r.Setting)
				assert.Equal(t, r.Ships, raw, "%s %s", p.Name, r.Setting)
			}
			if drive.Set(r.Setting) {
				assert.NotEmpty(
					t,
					p.Parameters[r.Setting].Number,
					"%s %s has a number on the keypad",
					p.Name,
					r.Setting,
				)
				assert.Contains(t, p.Reached(r.Setting), p.Parameters[r.Setting].Number)
				assert.NotEmpty(t, r.Menu)
			}
		}
		for setting, q := range p.Parameters {
			require.NotNil(t, p.Register(setting), "%s %s", p.Name, setting)
			for word := range q.Writes {
				_, ok := p.Register(setting).Codes[word]
				assert.True(t, ok, "%s %s: %s", p.Name, setting, word)
			}
		}
		for _, f := range drive.Faults {
			assert.NotEmpty(t, p.Panel.Shows[f.Name], "%s %s", p.Name, f.Name)
			assert.Contains(t, p.Register("fault").Codes, f.Name)
		}
	}
}

// What is written is read back as it was meant, to half a count; what does not go in is refused.
func TestRegisterHoldsWhatItIsGiven(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := drive.Register{
			Scale: rapid.SampledFrom([]float64{0, 1, 0.1, 0.01, 0.5, 10}).Draw(t, "scale"),
			Type:  rapid.SampledFrom([]string{"", drive.Uint16, drive.Int16, drive.Uint32}).Draw(t, "type"),
		}
		scale := r.Scale
		if scale == 0 {
			scale = 1
		}
		low, high := 0.0, 65535.0
		switch r.Type {
		case drive.Int16:
			low, high = -32768, 32767
		case drive.Uint32:
			high = math.MaxUint32
		}
		count := rapid.Float64Range(2*low-70000, 1.2*high).Draw(t, "count")
		raw, err := r.Encode(drive.Value{Number: count * scale})
		if in := count >= low-0.49 && count <= high+0.49; in {
			require.NoError(t, err)
			assert.InDelta(t, count*scale, r.Decode(raw).Number, 0.5*scale*(1+1e-6)+1e-6)
		} else if count < low-0.51 || count > high+0.51 {
			require.Error(t, err)
		}
	})
	bounded := drive.Register{Scale: 0.1, Unit: "A", Least: new(0.2), Most: new(40.0)}
	_, err := bounded.Encode(drive.Value{Number: 41})
	require.EqualError(t, err, "41 lies outside of 0.2 to 40 A")
	words := drive.Register{Codes: map[string]uint16{"ramp": 0, "coast": 1}}
	_, err = words.Encode(drive.Value{Word: "brake"})
	require.EqualError(t, err, `the drive has no "brake" there, but ramp, coast`)
	assert.Equal(t, "code 7", words.Decode(7).String())
}

func TestValueAsJSON(t *testing.T) {
	for text, value := range map[string]drive.Value{`"coast"`: {Word: "coast"}, `9.6`: {Number: 9.6}} {
		var read drive.Value
		require.NoError(t, json.Unmarshal([]byte(text), &read))
		assert.Equal(t, value, read)
		back, err := json.Marshal(value)
		require.NoError(t, err)
		assert.Equal(t, text, string(back))
	}
	assert.Error(t, json.Unmarshal([]byte(`[1]`), new(drive.Value)))
}

// A profile that cannot be right is told where.
func TestRegisterFaults(t *testing.T) {
	for says, change := range map[string]func(p *drive.Profile){
		"Register 1: there is no setting \"motor_colour\".": func(p *drive.Profile) {
			p.Registers[0].Setting = "motor_colour"
		},
		"Ramp up and Motor amps lie on one address, holding 2.": func(p *drive.Profile) {
			p.Registers[1].Address = 2
		},
		"Ramp up has two registers.": func(p *drive.Profile) {
			p.Registers[2].Setting = "acceleration_s"
		},
		"Ramp up: its access is rw or ro.": func(p *drive.Profile) {
			p.Registers[0].Access = "w"
		},
		"Ramp up: words have codes, and figures none.": func(p *drive.Profile) {
			p.Registers[0].Codes = map[string]uint16{"x": 1}
		},
		"Ramp up: a coil holds one bit.": func(p *drive.Profile) {
			p.Registers[0].Table, p.Registers[0].Type = "coil", "uint32"
		},
		"Ramp up: its address lies past the last.": func(p *drive.Profile) {
			p.Registers[0].Address, p.Registers[0].Type = 65535, "uint32"
		},
		"Ramp up: its least is above its most.": func(p *drive.Profile) {
			p.Registers[0].Least, p.Registers[0].Most = new(2.0), new(1.0)
		},
		"Stop: there is no word \"skid\".": func(p *drive.Profile) {
			p.Registers[2].Codes["skid"] = 7
		},
		"Stop: coast and ramp have one code.": func(p *drive.Profile) {
			p.Registers[2].Codes["ramp"] = 1
		},
		"The keypad has no key \"bell\".": func(p *drive.Profile) {
			p.Panel.Keys["bell"] = "BELL"
		},
		"The guided set-up asks for \"poles\", which has no register.": func(p *drive.Profile) {
			p.Panel.Guide = []string{"poles"}
		},
		"Keypad, run: 1 to 12 letters.": func(p *drive.Profile) {
			p.Panel.Keys["run"] = ""
		},
		"Ramp up: its scale lies above 0, up to a million.": func(p *drive.Profile) {
			p.Registers[0].Scale = -1
		},
		"Ramp up: its type is one of uint16, int16, uint32.": func(p *drive.Profile) {
			p.Registers[0].Type = "float"
		},
		"Ramp up: unit and menu have at most 20 and 40 letters.": func(p *drive.Profile) {
			p.Registers[0].Unit = "seconds of a very long ramp"
		},
		"How a parameter is come to has at most 120 letters.": func(p *drive.Profile) {
			p.Panel.Reach = string(make([]byte, 121))
		},
		"Ramp up: when it is written is one of stopped, any.": func(p *drive.Profile) {
			p.Registers[0].WriteWhen = "never"
		},
		"Ramp up: its table is one of holding, coil.": func(p *drive.Profile) {
			p.Registers[0].Table = "input"
		},
	} {
		p := drive.Profile{
			Format: drive.ProfileFormat, Name: "x",
			Registers: []drive.Register{
				{Setting: "acceleration_s", Address: 1, Access: "rw"},
				{Setting: "motor_amps", Address: 5, Access: "rw", Type: "uint32"},
				{Setting: "stop_mode", Address: 3, Access: "rw", Codes: map[string]uint16{"ramp": 0, "coast": 1}},
				{Setting: "output_amps", Address: 9, Access: "ro"},
			},
			Panel: &drive.Panel{Keys: map[string]string{"run": "RUN"}},
		}
		require.Empty(t, p.Check())
		change(&p)
		if p.Registers[1].Address == 2 {
			p.Registers[0].Address = 2
		}
		assert.Contains(t, p.Check(), says)
	}
}
