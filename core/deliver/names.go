package deliver

import (
	"slices"
	"strings"
)

// reserved are the words that cannot name a variable in JavaScript (ECMA-262, strict code)
// and those that delivered code has for itself.
var reserved = strings.Fields(`
	arguments await break case catch class const continue debugger default delete do else enum eval export extends
	false finally for function if implements import in instanceof interface let new null package private protected
	public return static super switch this throw true try typeof undefined var void while with yield
	NaN Infinity globalThis async of get set type as from
	x bases sources models index lists states reactive computed watchEffect inject provide ref useTemplateRef params
	make made record outer today controls count pages state opened props emit attrs slots event
	Array Boolean Date Error Function HTMLElement InstanceType Map Number Object Partial Promise Record Ref Set String
	Symbol encodeURIComponent`)

// Reserved reports whether a name cannot be given to a variable of delivered code.
func Reserved(name string) bool { return slices.Contains(reserved, name) }

// ListName is the name of a model's list in code, and that of its file.
func ListName(id string) string {
	name := strings.ReplaceAll(id, "-", "_")
	if Reserved(name) {
		return name + "List"
	}
	return name
}

// TypeName is the name of a model's type in code.
func TypeName(id string) string {
	name := Pascal(id)
	if Reserved(name) {
		return name + "Record"
	}
	return name
}
