package rule

// Row is one line of an answer: what, the figure, and a remark. Assumed marks a figure
// that rests on a table; Figure names its working, if it has one.
type Row struct {
	Figure  string `json:"figure"`
	Label   string `json:"label"`
	Value   string `json:"value"`
	Remark  string `json:"remark"`
	Assumed bool   `json:"assumed"`
}

// Section is a block of rows.
type Section struct {
	Title string `json:"title"`
	Rows  []Row  `json:"rows" nullable:"false"`
}
