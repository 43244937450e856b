package rules

import "ubiquant/core/audit"

// Signing is no check: it is what a team asks of a screen before it is signed off, held and set
// as a rule is.
var Signing = &audit.Rule{
	ID: "sign-off", Title: "What a sign-off asks for", Severity: audit.Error,
	Purpose: "A screen is signed off when nothing of this is open on it.",
	Why:     "Who signs says that it can go out; the team says what that means.",
	Settings: []audit.Setting{
		{
			Name: "asks", Help: "Not with", Default: "errors",
			Choices: []string{"errors", "warnings", "strays", "missing states", "wrong looks", "no owner", "work given", "missing texts"},
		},
		{Name: "certainty", Help: "Strays that are slips with more than so many in 100", Default: "80", Number: true},
		{
			Name: "states", Help: "States that a screen with records has", Default: "loading, empty, error",
			Choices: []string{"loading", "empty", "error"},
		},
		{Name: "delivery", Help: "Delivered is", Default: "", Choices: []string{"only what is signed off"}},
	},
}
