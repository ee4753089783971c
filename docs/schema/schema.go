// Package schema holds the published schemas of Brackmoor's open formats.
package schema

import _ "embed"

// Case is the JSON Schema of brackmoor.case/1.
//
//go:embed case-1.json
var Case []byte

// Shops is the JSON Schema of brackmoor.shops/1.
//
//go:embed shops-1.json
var Shops []byte

// Leads is the JSON Schema of brackmoor.leads/1.
//
//go:embed leads-1.json
var Leads []byte

// Plate is the schema of a plate that was read.
//
//go:embed plate-1.json
var Plate []byte

// Circuit is the JSON Schema of brackmoor.circuit/1.
//
//go:embed circuit-1.json
var Circuit []byte

// Tune is the JSON Schema of brackmoor.tune/1, which refers to that of a plate.
//
//go:embed tune-1.json
var Tune []byte

// Diagnose is the JSON Schema of brackmoor.diagnose/1, which refers to that of a plate.
//
//go:embed diagnose-1.json
var Diagnose []byte

// Profile is the JSON Schema of brackmoor.drive-profile/1.
//
//go:embed drive-profile-1.json
var Profile []byte

// Settings is the JSON Schema of brackmoor.drive-settings/1.
//
//go:embed drive-settings-1.json
var Settings []byte
