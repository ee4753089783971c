package rule

// Row is one line of an answer: what, the figure, and a remark. Assumed marks a figure
// that rests on a table; Figure names its working, if it has one.
type Row struct {
	Figure  string `json:"figure"`
	Label   string `json:"label" told:"figures"`
	Value   string `json:"value" told:"figures"`
	Remark  string `json:"remark" told:"figures"`
	Assumed bool   `json:"assumed"`
}

// Section is a block of rows.
type Section struct {
	Title string `json:"title"`
	Rows  []Row  `json:"rows" nullable:"false"`
}
