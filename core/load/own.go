package load

import (
	"fmt"
	"regexp"
	"strings"

	"brackmoor/core/rule"
)

// word is what a kind goes by in data.
var word = regexp.MustCompile(`^[a-z0-9][a-z0-9-]{0,39}$`)

// CheckOwn says what is wrong with a shop's own kinds, each by its place in the list. Bounds of single figures
// are those of the file's schema; what is here is between them.
func CheckOwn(list []Kind) (problems rule.Problems) {
	titles := map[string]bool{}
	for _, k := range Kinds {
		titles[strings.ToLower(k.Title)] = true
	}
	names := map[string]bool{}
	for i, k := range list {
		at := fmt.Sprintf("[%d]", i)
		_, usual := ByName(k.Name)
		title := strings.ToLower(strings.TrimSpace(k.Title))
		switch {
		case !word.MatchString(k.Name):
			problems.Say(at+".name", "goes by small letters, digits and dashes")
		case usual || names[k.Name]:
			problems.Say(at+".name", "there is a kind %q already", k.Name)
		}
		switch {
		case title == "":
			problems.Say(at+".title", "wants a name to be chosen by")
		case titles[title]:
			problems.Say(at+".title", "there is a kind called so already")
		}
		if k.UpShare > k.RunShare {
			problems.Say(at+".up_share", "what it takes coming up unloaded is no more than what it takes running")
		}
		names[k.Name], titles[title] = true, true
	}
	return problems
}
