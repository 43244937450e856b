package cases

import (
	"slices"
	"strings"
)

// senses are words that buttons say for one and the same thing. Words of one line may stand for
// each other by mistake; words of two lines mean different things, and words of no line are judged
// by where they stand alone.
var senses = [][]string{
	{"save", "store", "keep changes", "apply", "update", "submit", "ok", "okay", "done", "confirm", "finish", "write", "save changes", "commit"},
	{"new", "add", "create", "insert", "make", "start a"},
	{"cancel", "close", "back", "abort", "dismiss", "discard", "exit", "leave", "return", "go back", "never mind", "quit"},
	{"remove", "delete", "erase", "trash", "destroy", "drop", "take away", "clear"},
	{"edit", "change", "modify", "adjust", "amend", "alter"},
	{"search", "find", "look up", "seek"},
	{"filter", "narrow"},
	{"show", "view", "open", "see", "display", "details", "look at", "read"},
	{"send", "mail", "post", "dispatch"},
	{"export", "download"},
	{"import", "upload", "load"},
	{"sign in", "log in", "login", "sign on", "log on"},
	{"sign out", "log out", "logout", "log off"},
	{"next", "continue", "proceed", "go on", "forward"},
	{"previous", "earlier"},
	{"print"}, {"copy", "duplicate", "clone"}, {"share"}, {"archive"}, {"publish"}, {"approve", "accept", "allow"},
	{"reject", "refuse", "decline", "deny"}, {"all"}, {"more"}, {"help"}, {"refresh", "reload"}, {"keep"}, {"move"},
	{"reset", "clear all"}, {"settings", "options", "preferences"},
}

// Senses are words that are said for the same as a word, itself among them; none where it is of no line.
func Senses(word string) []string {
	if at := senseOf[word]; at > 0 {
		return slices.Clone(senses[at-1])
	}
	return nil
}

var senseOf = func() map[string]int {
	out := map[string]int{}
	for i, line := range senses {
		for _, w := range line {
			if _, ok := out[w]; !ok {
				out[w] = i + 1
			}
		}
	}
	return out
}()

// Sense is the number of what a text begins to say; 0 where it is none of the usual words.
func Sense(text string) int {
	words := strings.Fields(strings.ToLower(text))
	for n := min(2, len(words)); n > 0; n-- {
		if s := senseOf[strings.Trim(strings.Join(words[:n], " "), ".:!…")]; s > 0 {
			return s
		}
	}
	return 0
}

// gone are words that say that something is gone afterwards. To clear a filter is no such thing.
var gone = slices.DeleteFunc(Senses("remove"), func(word string) bool {
	return slices.Contains([]string{"clear", "drop", "take away"}, word)
})

// TakesAway reports whether words begin by saying that something is gone afterwards.
func TakesAway(text string) bool {
	word, _, _ := strings.Cut(strings.ToLower(strings.TrimSpace(text)), " ")
	return slices.Contains(gone, strings.Trim(word, ".:!…"))
}

// ending are senses of words that take back, end or refuse: they may well warn by their looks.
var ending = func() (list []int) {
	for _, word := range []string{"remove", "reject", "cancel", "reset", "sign out", "archive", "move"} {
		list = append(list, senseOf[word])
	}
	return list
}()

// Harmless reports whether words are known to say what takes nothing away, back or apart.
func Harmless(text string) bool {
	sense := Sense(text)
	return sense != 0 && !slices.Contains(ending, sense)
}
