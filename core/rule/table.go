package rule

// Table is figures in columns with their source; an empty cell is a box to write in. A table with a
// name is one of a code, in whose open columns a shop may put figures of its own.
type Table struct {
	Title  string     `json:"title"`
	Source string     `json:"source"`
	Head   []string   `json:"head" nullable:"false"`
	Rows   [][]string `json:"rows" nullable:"false"`
	Name   string     `json:"name,omitempty"`
	Open   []string   `json:"open,omitempty"` // heads of those columns
}
