package screen

import "strings"

// Params lists the parameters of a route: of "/tickets/:id/edit" it is id.
func Params(route string) []string {
	var out []string
	for part := range strings.SplitSeq(route, "/") {
		if name, ok := strings.CutPrefix(part, ":"); ok && name != "" {
			out = append(out, strings.TrimRight(name, "?*+"))
		}
	}
	return out
}

// Filled is a route with its parameters as they are; those that are not given stay.
func Filled(route string, params map[string]string) string {
	parts := strings.Split(route, "/")
	for i, part := range parts {
		if name, ok := strings.CutPrefix(part, ":"); ok {
			if v, ok := params[strings.TrimRight(name, "?*+")]; ok {
				parts[i] = v
			}
		}
	}
	return strings.Join(parts, "/")
}

// Match tells whether an address leads to a route, and what its parameters are then.
func Match(route, address string) (params map[string]string, ok bool) {
	address, _, _ = strings.Cut(address, "?")
	address, _, _ = strings.Cut(address, "#")
	want, have := strings.Split(route, "/"), strings.Split(strings.TrimRight(address, "/"), "/")
	if address == "/" {
		have = []string{"", ""}
	}
	if len(want) != len(have) {
		return nil, false
	}
	params = map[string]string{}
	for i, part := range want {
		if name, is := strings.CutPrefix(part, ":"); is && name != "" && have[i] != "" {
			params[strings.TrimRight(name, "?*+")] = have[i]
		} else if part != have[i] {
			return nil, false
		}
	}
	return params, true
}
