package plate

import (
	"regexp"
	"strings"
)

// Pieces of the patterns below, in upper case. A list keeps its strokes, so that groups
// such as 208-230/460 are seen.
const (
	num  = `(?:\d+(?:[.,]\d+)?|[.,]\d+)`
	list = `(` + num + `(?:\s*[-/–]\s*` + num + `){0,7})`
	one  = `(` + num + `)`
	frac = `(\d+(?:[.,]\d+)?\s*/\s*\d+[.,]\d+|\d+\s+\d/\d+|\d+-\d/\d+|\d/\d+|\d*\s?[½¼¾⅓⅔]|` +
		num + `\s*[-–]\s*` + num + `|` + num + `(?:\s*/\s*` + num + `)*)`
	is = `\s*(?:\.{2,}|[:=–-])?\s*`
	// joint names a connection. Longer words stand before the letters that they begin with.
	joint = `(?:DELTA|DREIECK|TRIANGLE|TRIANGOLO|TRI[AÁ]NGULO|DRIEHOEK|TRIANGEL|TR[OÓ]JK[AĄ]T|WYE|STAR|STERN?|` +
		`[EÉ]TOILE|STELLA|ESTRELLA|STJ[AÄ]RNA|GWIAZDA|SERIES|PARALLEL|Δ|∆|△|YY|Y|D)`
	joints  = `(` + joint + `(?:\s*/\s*` + joint + `)*)`
	bearing = `(?:6[0-9]{3}|N[UJ]?\s?[23]\d{2}|[23]\d{2})(?:[-\s]?(?:2?ZZ?|2?RS1?|LLU|DDU|C3)){0,3}`
	metric  = `(?:56|63|71|80|90|100|112|132|160|180|200)` // sizes of metric frames
	// volts that carry their connection behind or before them.
	marked  = num + `(?:\s*[-–]\s*` + num + `)?\s*V?\s*-?\s*` + joint
	marking = joint + `\s*-?\s*` + num + `\s*V?`
)

// figure is a figure of a plate with all that it is called: the words before it that say
// what it is, and the units behind it (or before it, since many plates say "V 230").
type figure struct {
	field, value string
	// called are words that are enough by themselves, letters those that are only before a
	// figure with its unit or with a sign of equality.
	called, letters, units string
}

var figures = []figure{
	{
		"rpm",
		list,
		`RATED\s*SPEED|SPEED|DREHZAHL|VITESSE|VELOCIT[AÀ]|VELOCIDAD|TOEREN(?:TAL)?|VARVTAL|OBROTY|GIRI|` +
			`[UO]MDR\.?|KIERR\.?|REVS?\.?`,
		`N[NR]?`,
		`R\.?\s?P\.?\s?M\.?|REVS?\.?\s*(?:PER|/)\s*MIN(?:UTE)?\.?|R/MIN\.?|R/M|1/MIN\.?|/\s*MIN|MIN-1|MIN⁻¹|MIN\^-1|` +
			`U/MIN|U/M|UPM|TOURS?/MI?N|T\.?P\.?M\.?|OMDR\.?/MIN|KIERR\.?/MIN|TOER(?:EN)?/MIN|` +
			`UMDR\.?/MIN\.?|TR?[/-]MI?N|T/M|GIRI/MIN|GIRI/1'|G/MIN|G/1'|OMW/MIN|OMW\.?/MIN|VARV/MIN|` +
			`OBR\.?/MIN|OB/MIN|O/MIN|OT\.?/MIN|F/P`,
	},
	{
		"hertz",
		list,
		`FREQ(?:UENCY)?\.?|FREC\.?|FREQUENZ|FR[EÉ]QUENCE|FREQUENZA|FRECUENCIA|FREQUENTIE|FREKVENS|` +
			`CZ[EĘ]STOTLIWO[SŚ][CĆ]`,
		`F[NR]?`,
		`HZ\.?|HERTZ|CYCLES?(?:\s*PER\s*SEC(?:OND)?\.?)?|CYC?\.?|C\.?P\.?S\.?|[CP]/S(?:EC)?\.?|~|CICLOS|CICLI|CYKLI|` +
			`PERIODS?|P[EÉ]RIODES|PERIOD[IE][NR]?|PER\.?(?:/S(?:EC)?\.?)?`,
	},
	{"volts", list,
		`RATED\s*VOLTAGE|VOLTAGE|TENS\.?|(?:NENN)?SPANNUNG|TENSIONE?|TENSI[OÓ]N|SPANNING|SP[AÄ]NNING|NAPI[EĘ]CIE|` +
			`(?:HIGH|LOW)\s*VOLTS`,
		`U[NR1]?`,
		`VOLTS?\.?|VOLTIOS|VOLTIA|VOLTAJE|VAC|V\.?`},
	{
		"amps",
		list,
		`RATED\s*CURRENT|CURRENT|AMPERAGE|AMPERAJE|INT\.?|(?:NENN)?STROM|COURANT|STR[OÖ]M|INTENSIT[EÉ]|CORRENTE|` +
			`CORRIENTE|INTENSIDAD|STROOM|PR[AĄ]D|F\.?L\.?C\.?`,
		`I[NR1]?`,
		`(?:FULL\s*LOAD\s*)?AMP[EÈ]?RES?|AMPERIOS|AMPERIA|AMPER|` +
			`F(?:ULL)?\.?\s*L(?:OAD)?\.?\s*AMPS?\.?|F\.?L\.?\s?A(?:MPS?)?\.?|AMPS?\.?|A\.?`,
	},
	{"service_factor_amps", list, ``, ``,
		`S\.?F\.?\s*A(?:MPS?|MP)?\.?|SERVICE\s*FACTOR\s*AMPS|AMPS?\s*(?:AT|@)\s*S\.?F\.?`},
	{"locked_rotor_amps", list, ``, ``, `L\.?R\.?A\.?|LOCKED\s*ROTOR\s*AMPS|LRC`},
	{"output", frac,
		`RATED\s*OUTPUT|OUTPUT|POWER|POT\.?|LEISTUNG|PUISSANCE|POTENZA|POTENCIA|VERMOGEN|EFFEKT|MOC`,
		`P[N2R]?`,
		`K\.?W\.?|B\.?\s?H\.?\s?P\.?|H\.?\s?P\.?|HORSE(?:\s?POWER)?|P\.?S\.?|C\.?V\.?|CH\.?|KM|HK|PK|WATTS?|W`},
	{
		"service_factor",
		`([12](?:[.,]\d+)?)`,
		``,
		``,
		`S\.?\s?F\.?|F\.?S\.?|S(?:ER(?:V(?:ICE)?)?|VC)\.?\s*F(?:AC(?:T(?:OR)?)?|CTR)?\.?|SERVICE\s*FACTOR|` +
			`FAC(?:T(?:OR)?)?\.?\s*(?:DE\s*)?SERV(?:ICIO|ICE)?\.?|FATTORE\s*(?:DI\s*)?SERVIZIO|FACTEUR\s*DE\s*SERVICE`,
	},
	{"power_factor", one + `\s*%?`, ``, ``,
		`P\.?\s?F\.?|POWER\s*FACTOR|COS\.?\s*(?:Φ|PHI|FI|Ø|ϕ|F)?\.?|COSINUS\s*(?:Φ|PHI)?|FACTOR\s*DE\s*POTENCIA|` +
			`FACTEUR\s*DE\s*PUISSANCE|FATTORE\s*DI\s*POTENZA|LEISTUNGSFAKTOR`},
	{"efficiency", one + `\s*%?`, ``, ``,
		`(?:NEMA\s+)?(?:(?:GUARANTEED|MIN|NOM|NOMINAL)\.?\s*)*EFF(?:ICIENCY|IC)?\.?(?:\s*NOM(?:INAL)?\.?)?|` +
			`WIRKUNGSGRAD|RENDEMENT|RDT\.?|REND\.?|RENDIMENTO|RENDIMIENTO|VERKNINGSGRAD|SPRAWNO[SŚ][CĆ]`},
}

// pattern is one way in which a plate states a field, in upper case.
type pattern struct {
	field string
	match *regexp.Regexp
}

// compile makes a pattern. A figure and its label stand on one line, so space is
// never the end of one.
func compile(field, expression string) pattern {
	return pattern{field, regexp.MustCompile(strings.ReplaceAll(expression, `\s`, `[\t ]`))}
}

// Edges: no letter or figure may run on; behind a unit a figure may, since plates are stamped
// close.
const (
	start = `[^\pL\pN.,]`
	stop  = `(?:$|[^\pL\pN])`
	apart = `(?:$|[^\pL])`
	// onward is a start that may also be the end of another figure with its unit.
	onward = `(?:[^\pL\pN.,]|[\d.](?:HP|KW|PS|CV|V|A|HZ|RPM|PH|W))`
)

// patterns of a figure are: its words and unit around it, its unit behind it, and its words
// or unit before it.
func (f figure) patterns() (list []pattern) {
	units, words := `(?:`+f.units+`)`, f.called
	if words == "" {
		words = f.units
	} else {
		words += "|" + f.units
	}
	words = `(?:` + words + `)(?:\s*/\s*` + units + `)?` // in two languages
	lone := `(?:` + words + is + `)`
	if f.letters != "" {
		lone = `(?:` + words + is + `|(?:` + f.letters + `)\s*[=:]?\s*)`
		list = append(list, compile(f.field, start+`((?:`+f.letters+`)\s*=\s*`+f.value+`)`+stop))
	}
	return append(list,
		compile(f.field, onward+`(`+lone+`?`+f.value+`\s*`+units+`)`+apart),
		compile(f.field, start+`(`+words+`\s*[(\[]?`+units+`?[)\]]?`+is+f.value+`)`+stop),
	)
}

// patterns are all ways in which fields are stated.
var patterns = append(figurePatterns(), []pattern{
	// Output states its unit, which is caught too.
	compile("output", onward+`((?:(?:`+figures[6].called+`)`+is+`|(?:P[N2R]?)\s*[=:]?\s*)?`+frac+`\s*`+
		outputUnits+`)`+apart),
	compile("output", start+`((?:(?:`+figures[6].called+`)\s*[(\[]?)?`+outputUnits+
		`(?:\s*/\s*(?:`+figures[6].units+`))?[)\]]?`+is+frac+`)`+stop),
	compile("rpm", start+`(N\s+(\d{3,4}))`+stop),                             // written small, as a speed is
	compile("input", start+`(P1(?:\s*[=:]\s*|\s+)`+one+`\s*(?:KW|W))`+apart), // what it takes, beside P2
	compile("efficiency", start+`((?:IE[1-5]\s*[-:]?\s*|η`+is+`)`+`(\d\d(?:[.,]\d+)?)\s*%?)`+stop),
	compile("code_letter", start+`((?:KVA\s*)?CODE(?:\s*LETTER)?`+is+`([A-HJ-NPR-V]))`+stop),
	compile("code_letter", start+`(KVA\s*(?:CODE)?`+is+`([A-HJ-NPR-V]))`+stop),
	compile("design_letter", start+`((?:NEMA\s*)?DES(?:IGN|GN)?\.?(?:\s*LETTER)?`+is+`(N[YE]|H[YE]|[ABCDNH]))`+stop),
	compile(
		"insulation_class",
		start+`((?:`+insulation+`)\.?\s*-?\s*(?:SYSTEM\s*)?(?:`+class+`)?\.?`+is+letter+`)`+stop,
	),
	compile("insulation_class", start+`((?:`+class+`)\.?(?:\s*(?:`+insulation+`))?\.?`+is+letter+`)`+stop),
	compile("insulation_class", start+`(I\.?\s*CL\.?`+is+letter+`)`+stop),
	compile("insulation_class", start+`((?:`+class+`)\.?\s*`+letter+`\s*(?:`+insulation+`)\.?)`+stop),
	compile(
		"temperature_rise_kelvin",
		start+`((?:TEMP(?:ERATURE)?\.?\s*)?RISE`+is+one+`\s*(?:°|DEG\.?)?\s*[CK]?)`+stop,
	),
	compile(
		"temperature_rise_kelvin",
		start+`(`+one+`\s*(?:°|DEG\.?)?\s*[CK]?\s*(?:TEMP(?:ERATURE)?\.?\s*)?RISE)`+stop,
	),
	compile("ambient_celsius",
		start+`((?:MAX\.?\s*)?AMB(?:IENT)?\.?(?:\s*TEMP\.?)?(?:\s*MAX\.?)?`+is+one+`\s*°?\s*C?)`+stop),
	compile("ambient_celsius", start+`(`+one+`\s*°?\s*C\s*(?:MAX\.?\s*)?AMB(?:IENT)?\.?)`+stop),
	compile("altitude_metre", start+`((?:MAX\.?\s*)?ALT(?:ITUDE)?\.?(?:\s*MAX\.?)?`+is+one+`\s*(MTR|M|FT|FEET))`+stop),
	compile("duty", start+`((?:(?:DUTY|SERV(?:ICE|IZIO|ICIO)?\.?|TIME\s*RATING|TIME|RATING)`+is+`)?`+
		`(S(?:10|[1-9])(?:\s*[-,]?\s*\d+\s*(?:MIN|%))?|S\s(?:10|[1-9])\s*[-,]?\s*\d+\s*(?:MIN|%)))`+apart),
	compile("duty", start+`((?:(?:DUTY|HOURS|TIME\s*RATING|TIME|RATING)`+is+`)?`+
		`(CONT(?:INUOUS)?|INT(?:ERMITTENT)?|\d{1,3}\s*MIN(?:UTES)?)\.?(?:\s*DUTY)?)`+stop),
	compile("frame", start+`((?:FR(?:AME)?)\.?(?:\s*(?:SIZE|NO\.?))?`+is+`(\d{2,3}\s?(?:[A-Z]{1,3}\d?)?))`+stop),
	compile("frame", start+`((?:FR(?:AME)?)\.?(?:\s*(?:SIZE|NO\.?))?`+is+`(\d{2,3}))`+stop),
	compile("frame", start+`((\d{2,3}[A-Z]?)\s*FRAME)`+stop),
	compile("frame", start+`(((?:48|56|66|14[35]|18[24]|21[35]|25[46]|28[46])(?:TC|TS|T|U|C|J|HZ|HC|H|Y|Z)))`+stop),
	compile("frame", start+`(IEC\s*(`+metric+`\s?[SML]?))`+stop),
	compile("cooling", start+`(IC\s*\.?-?\s*(\d{2,3}[A-Z]?\d?[A-Z]?\d?))`+stop),
	compile("bearings", start+`((?:BEARINGS?|BRGS?|BRG|LAGER)\.?`+is+`(`+bearing+
		`(?:\s*[/,-]?\s*(?:O?DE|NDE|D-?E|N-?DE|A|B)?\s*`+bearing+`)?))`+stop),
	compile("bearings", start+`((?:(?:BRG|BEARING)\.?\s*)?(?:O?DE|D-END)(?:\s*BRG)?`+is+`(`+bearing+
		`)\s*[/,;]?\s*(?:N\.?D\.?E|O?DE|O\.D\.E)\.?(?:\s*BRG)?`+is+`(`+bearing+`))`+stop),
	compile("part_load_efficiency",
		start+`((?:EFF(?:ICIENCY)?\.?\s*)?(?:AT\s*)?(?:3/4|75)\s*%?\s*(?:LOAD)?`+is+`(\d\d[.,]\d)\s*%?\s*[,;/]?\s*`+
			`(?:1/2|50)\s*%?\s*(?:LOAD)?`+is+`(\d\d[.,]\d)\s*%?)`+stop),
	compile("ip", start+`(IP\s*-?\s*([0-6X][0-9X][A-Z]?))`+stop),
	compile("enclosure",
		start+`((?:ENC(?:L(?:OSURE)?)?\.?`+is+`)?(TEFC|TENV|TEAO|TEBC|ODP|WPI{1,2}|DRIP\s*PROOF|OPEN|DP|XP))`+stop),
	compile("leads", start+`((?:NO\.?\s*OF\s*)?LEADS?`+is+`(\d{1,2}))`+stop),
	compile("leads", start+`((\d{1,2})\s*-?\s*LEADS?)`+stop),
	compile("year", start+`((?:YEAR|DATE|MFD|MFG|MADE|BUILT|BAUJAHR|BOUWJAAR|BJ|ANN[EÉ]E|ANNO)\.?`+is+
		`(?:\d{1,2}[/.-])?((?:19|20)\d\d))`+stop),
	compile("weight", start+`((?:(?:WEIGHT|WT|MASS|GEWICHT|POIDS|PESO|VIKT|MASA)\.?`+is+`)?`+one+`\s*(KG|LBS?))`+stop),
	compile("weight", start+`((?:(?:WEIGHT|WT)`+is+`)?(KG)\.?\s*(\d{1,3}(?:[.,]\d)?))`+stop),
	compile("phases", start+`((?:PH(?:ASE)?S?|FASI|FASEN)\.?`+is+`([123]))`+stop),
	compile(
		"phases",
		onward+`((?:MOT(?:OR)?\.?\s*)?([123])\s*-?\s*`+
			`(?:PH(?:ASE)?S?\.?|FAZ(?:OW[YA])?\.?|FAS(?:IG|EN|ES|I)?|Φ|Ø|ϕ))`+apart,
	),
	compile("phases", start+`((?:MOT(?:OR)?\.?\s*)?([123])\s*~)`),
	compile("phases", start+`((SINGLE|TWO|THREE|TRI)\s*-?\s*PHASE)`+stop),
	compile("phases",
		start+`((DREH-?STROM|DRAAISTROOM|TRIPHAS[EÉ]|TRIFASE|TRIF[AÁ]SICO|TREFAS|TR[OÓ]JFAZOW)\pL*(?:-\pL+)?)`+stop),
	compile("poles", start+`((\d{1,2})\s*-?\s*POL(?:ES?|IG|I|OS)?)`+stop),
	compile("poles", start+`((\d{1,2})P)`+stop),
	compile("poles", start+`(P\s*([2468]|1[0246]))`+stop),
	compile("poles", start+`(POLES?`+is+`(\d{1,2}))`+stop),
	compile("volts", start+`((?:[UV]\s*[=:]?\s*)?`+joints+`\s*`+list+`\s*(?:VOLTS?|VAC|V))`+apart),
	compile("volts", start+`((?:U[NR1]?\s*[=:]?\s*)?`+list+`\s*(?:VOLTS?|VAC|V)\s*`+joints+`)`+stop),
	compile("volts", start+`((?:VOLTS?|V|U)`+is+list+`\s*`+joints+`)`+stop),
	compile("volts", start+`((?:VOLTS?|V|U)?`+is+`(`+marked+`(?:\s*[/,;-]\s*`+marked+`)*)\s*(?:VOLTS?|VAC|V)?)`+stop),
	compile("volts", start+`((?:VOLTS?|V|U)?`+is+`(`+marking+`(?:\s*[/,;-]\s*`+marking+`)+)\s*(?:VOLTS?|VAC|V)?)`+stop),
	compile("volts", start+`(`+joints+`\s*`+list+`\s*(?:VOLTS?|VAC|V))`+apart),
	compile("volts", start+`(`+list+`)`+stop), // bare, if they are volts that go together
	compile("phases", start+`(([123])\s*[X×])\s*\d{3}`),
	compile("volts", `[13]\s*[X×]\s*(`+list+`\s*(?:VOLTS?|VAC|V))`+apart),
	compile("connection", start+`((?:CONN(?:ECTION)?\.?|CONNECTED)?`+is+
		`(DELTA|WYE|STAR|DREIECK|STERN|TRIANGLE|[EÉ]TOILE|Δ|∆|△|Y))`+stop),
	compile("connection", start+`((?:`+connected+`)\.?`+is+`(`+joint+`))`+stop),
	// What is named so that it is no figure: numbers of a type, a series or a drawing, and
	// volts on which a motor may be used beside those it is made for.
	compile("", start+`((?:TYPE?|TIPO|TYP|MODELL?|MOD|SER(?:IAL)?|S/N|SN|N[RO°º]|Nº|NUM(?:BER|MER)?|MATR|`+
		`FABR|CAT(?:ALOG)?|STYLE|SPEC|ORDER|DIAGRAM|ID|P/N|IA/IN|IK/IN|WK)\.?\s*(?:N[RO°º]\.?)?`+is+
		`((?:\pL{1,4}\s)?[\pL\pN./-]*\d[\pL\pN./-]*))`+stop),
	compile("", start+`((?:\pL{1,4}\s)?(`+metric+`\s?[SML]\d?(?:-\d)?))`+stop), // a frame in a type
	compile("", start+`(((?:USABLE|SUITABLE|OK)\s*(?:AT|ON|FOR)?\s*\d{3}\s*V(?:OLTS?)?(?:\s*(?:AT|@)?\s*`+num+
		`\s*A(?:MPS?)?)?))`+stop),
}...)

// Words of the insulation class, and its letter, alone or behind its temperature (IEC 60085).
const (
	insulation = `INS(?:UL(?:ATION)?)?|IS(?:OL?(?:ATIE|ATION|IERSTOFF)?)?|IZOL(?:ACJ[AI])?|AISL?(?:AMIENTO)?|TH(?:ERM)?`
	class      = `CL(?:ASSE?)?|CLASE|KL(?:ASSE?|ASA)?|W(?:[AÄ]RME)?KL(?:ASSE)?`
	letter     = `(?:1\d\d\s*\(?)?([ABEFHN])\)?`
)

// connected says that a connection follows.
const connected = `CONN(?:ECTION)?|CONNECTED|SCHALTUNG|` +
	`SCHAKELING|COUPLAGE|COLLEGAMENTO|CONEXI[OÓ]N|KOPPLING|LIGA[CÇ][AÃ]O`

const outputUnits = `(K\.?W\.?|B\.?\s?H\.?\s?P\.?|H\.?\s?P\.?|HORSE(?:\s?POWER)?|P\.?S\.?|C\.?V\.?|CH\.?|` +
	`KM|HK|PK|WATTS?|W)`

func figurePatterns() (list []pattern) {
	for _, f := range figures {
		if f.field != "output" {
			list = append(list, f.patterns()...)
		}
	}
	return list
}

// idle are words that stand on plates and say nothing by themselves.
var idle = regexp.MustCompile(
	`^(?:AC|A\.C\.|MOTOR|MOTEUR|MOTORE|MOT\.?|INDUCTION|ELECTRIC|TYPE|NEMA|IEC|3~|RATING|RATED|NOM\.?|CONT\.?|THREE|` +
		`PHASE|MADE|IN|OF|AT|AND|THE|[-/|;:,.=·*()]+)$`,
)

// units of output, by their letters alone, as quantity names them.
var outputNames = map[string]string{
	"KW":         "kW",
	"BHP":        "hp",
	"HP":         "hp",
	"HORSEPOWER": "hp",
	"HORSE":      "hp",
	"PS":         "PS",
	"CV":         "cv",
	"CH":         "cv",
	"KM":         "PS",
	"HK":         "PS",
	"PK":         "PS",
	"W":          "W",
	"WATT":       "W",
	"WATTS":      "W",
}

// unitOf is the name of a unit of output.
func unitOf(text string) string {
	return outputNames[strings.NewReplacer(" ", "", ".", "", "\t", "").Replace(text)]
}
