package rule

// Table is figures in columns with their source; an empty cell is a box to write in.
type Table struct {
	Title  string     `json:"title"`
	Source string     `json:"source"`
	Head   []string   `json:"head" nullable:"false"`
	Rows   [][]string `json:"rows" nullable:"false"`
}
