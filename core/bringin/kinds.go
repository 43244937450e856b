package bringin

import (
	"slices"
	"strings"

	"golang.org/x/net/html"
)

// kind is something that markup means, by the tags, roles and words that tell it. The
// words are those that people commonly use in class names.
type kind struct {
	name  string
	as    []string // names of the component that it becomes, the first that the kit knows
	tags  []string
	roles []string
	words []string
	only  func(r *reader, n *html.Node, in scope) bool // further condition
	with  func(r *reader, n *html.Node, in scope) float64
	weak  bool // its tags stand for many things; a word tells more
}

func inside(kinds ...string) func(*reader, *html.Node, scope) bool {
	return func(_ *reader, _ *html.Node, in scope) bool { return slices.Contains(kinds, in.kind) }
}

func typeIs(types ...string) func(*reader, *html.Node, scope) bool {
	return func(_ *reader, n *html.Node, _ scope) bool {
		return slices.Contains(types, strings.ToLower(attr(n, "type")))
	}
}

// some tells whether an element of a tag stands somewhere inside.
func some(n *html.Node, tags ...string) *html.Node {
	for _, c := range elements(n) {
		if slices.Contains(tags, c.Data) {
			return c
		}
		if d := some(c, tags...); d != nil {
			return d
		}
	}
	return nil
}

func count(n *html.Node, test func(*html.Node) bool) int {
	out := 0
	for _, c := range elements(n) {
		if test(c) {
			out++
		}
		out += count(c, test)
	}
	return out
}

func isLink(n *html.Node) bool { return n.Data == "a" }

func isControl(n *html.Node) bool {
	return n.Data == "input" &&
		!slices.Contains([]string{"submit", "button", "reset", "hidden", "image"}, attr(n, "type")) ||
		n.Data == "select" ||
		n.Data == "textarea"
}

var headings = []string{"h1", "h2", "h3", "h4", "h5", "h6"}

// kinds are asked in their order; the most certain wins, the first of equals.
var kinds []kind

func init() { // conditions recognise what stands inside, so the list cannot be made in one
	kinds = []kind{
		{
			name:  "icon button",
			as:    []string{"icon button"},
			tags:  []string{"button"},
			words: []string{"icon-button", "icon-btn", "btn-icon", "iconbutton"},
			only: func(r *reader, n *html.Node, in scope) bool {
				return text(n) == "" && (n.Data == "button" || n.Data == "a") && in.kind != "pager"
			},
		},
		{
			name:  "button",
			as:    []string{"button"},
			tags:  []string{"button"},
			roles: []string{"button"},
			words: []string{"btn", "button", "cta"},
			only: func(r *reader, n *html.Node, in scope) bool {
				return in.kind != "menu" && in.kind != "tabs" && (text(n) != "" || n.Data != "button") &&
					!isControl(n)
			},
		},
		{
			name: "button",
			as:   []string{"button"},
			tags: []string{"input"},
			only: typeIs("submit", "button", "reset", "image"),
		},
		{name: "skip", tags: []string{"input"}, only: typeIs("hidden")},
		{
			name:  "switch",
			as:    []string{"switch", "checkbox"},
			roles: []string{"switch"},
			words: []string{"switch", "toggle"},
			only: func(r *reader, n *html.Node, _ scope) bool {
				return attr(n, "type") == "checkbox" || some(n, "input") != nil || attr(n, "role") == "switch"
			},
			with: func(*reader, *html.Node, scope) float64 { return 0.97 },
		},
		{
			name:  "checkbox",
			as:    []string{"checkbox"},
			tags:  []string{"input"},
			roles: []string{"checkbox"},
			only:  func(r *reader, n *html.Node, _ scope) bool { return n.Data != "input" || attr(n, "type") == "checkbox" },
		},
		{name: "radio", as: []string{"radio group"}, tags: []string{"input"}, only: typeIs("radio")},
		{
			name:  "radio group",
			as:    []string{"radio group"},
			tags:  []string{"fieldset"},
			roles: []string{"radiogroup"},
			words: []string{"radio-group", "radios"},
			only: func(r *reader, n *html.Node, _ scope) bool {
				return count(
					n,
					func(c *html.Node) bool { return attr(c, "type") == "radio" || attr(c, "role") == "radio" },
				) > 1
			},
		},
		{name: "control", as: []string{"slider"}, tags: []string{"input"}, only: typeIs("range")},
		{
			name: "control",
			as:   []string{"number input", "text input"},
			tags: []string{"input"},
			only: typeIs("number"),
		},
		{name: "control", as: []string{"file input"}, tags: []string{"input"}, only: typeIs("file")},
		{
			name: "control",
			as:   []string{"text input"},
			tags: []string{"input"},
			only: func(r *reader, n *html.Node, _ scope) bool { return isControl(n) },
		},
		{name: "control", as: []string{"text area", "text input"}, tags: []string{"textarea"}},
		{name: "control", as: []string{"select"}, tags: []string{"select"}},
		{
			name: "field",
			as:   []string{"field"},
			tags: []string{"label"},
			words: []string{
				"field",
				"form-group",
				"form-row",
				"form-field",
				"form-item",
				"control-group",
				"input-group",
				"form-control",
			},
			only: func(r *reader, n *html.Node, in scope) bool {
				return in.kind != "field" && n.Data != "input" && n.Data != "select" && n.Data != "textarea" &&
					count(n, isControl) == 1 &&
					count(
						n,
						func(c *html.Node) bool { return attr(c, "type") == "checkbox" || attr(c, "type") == "radio" },
					) == 0
			},
		},
		{
			name:  "checkbox",
			as:    []string{"checkbox"},
			tags:  []string{"label"},
			words: []string{"checkbox", "form-check", "check"},
			only: func(r *reader, n *html.Node, _ scope) bool {
				c := some(n, "input")
				return c != nil && attr(c, "type") == "checkbox" && count(n, isControl) == 1
			},
		},
		{name: "form", as: []string{"form"}, tags: []string{"form"}, roles: []string{"form"}},
		{
			name:  "table",
			as:    []string{"table"},
			tags:  []string{"table"},
			roles: []string{"table", "grid"},
			with: func(r *reader, n *html.Node, _ scope) float64 {
				if count(n, isHead) == 0 { // perhaps only a way to lay a page out
					return 0.6
				}
				return 0.96
			},
		},
		{name: "row", as: []string{"row"}, tags: []string{"tr"}, roles: []string{"row"}, only: inside("table")},
		{
			name:  "cell",
			as:    []string{"cell"},
			tags:  []string{"td", "th"},
			roles: []string{"cell", "gridcell", "rowheader"},
			only:  inside("row"),
		},
		{
			name:  "breadcrumbs",
			as:    []string{"breadcrumbs"},
			tags:  []string{"nav", "ol"},
			words: []string{"breadcrumb", "breadcrumbs", "crumbs"},
			only: func(r *reader, n *html.Node, _ scope) bool {
				w, p := classes(n)
				label := strings.ToLower(attr(n, "aria-label"))
				return strings.Contains(label, "breadcrumb") ||
					slices.ContainsFunc(
						append(w, p...),
						func(s string) bool { return strings.HasPrefix(s, "breadcrumb") || s == "crumbs" },
					)
			},
			with: func(*reader, *html.Node, scope) float64 { return 0.97 },
		},
		{
			name:  "pager",
			as:    []string{"pager"},
			tags:  []string{"nav", "ul"},
			words: []string{"pagination", "pager", "paging"},
			only: func(r *reader, n *html.Node, _ scope) bool {
				w, p := classes(n)
				label := strings.ToLower(attr(n, "aria-label"))
				return strings.Contains(label, "pag") ||
					slices.ContainsFunc(
						append(w, p...),
						func(s string) bool { return s == "pagination" || s == "pager" || s == "paging" },
					)
			},
			with: func(*reader, *html.Node, scope) float64 { return 0.97 },
		},
		{
			name:  "tabs",
			as:    []string{"tabs"},
			roles: []string{"tablist"},
			words: []string{"tabs", "tab-list", "nav-tabs", "tablist"},
		},
		{
			name:  "side navigation",
			as:    []string{"side navigation", "side nav"},
			tags:  []string{"nav", "aside"},
			words: []string{"sidebar", "side-nav", "sidenav", "side-navigation", "side-menu"},
			only: func(r *reader, n *html.Node, _ scope) bool {
				w, p := classes(n)
				side := slices.ContainsFunc(
					append(w, p...),
					func(s string) bool { return strings.HasPrefix(s, "side") },
				) ||
					n.Data == "nav" && n.Parent != nil && n.Parent.Data == "aside" ||
					n.Data == "aside" && some(n, "nav") != nil
				return side && count(n, isLink) > 1
			},
			with: func(*reader, *html.Node, scope) float64 { return 0.96 },
		},
		{
			name:  "navbar",
			as:    []string{"navbar"},
			tags:  []string{"nav"},
			roles: []string{"navigation", "menubar"},
			words: []string{
				"navbar",
				"topbar",
				"app-bar",
				"appbar",
				"nav-bar",
				"site-header",
				"header-bar",
				"top-bar",
			},
			only: func(r *reader, n *html.Node, in scope) bool {
				return in.kind != "navbar" && in.kind != "side navigation" && in.kind != "footer"
			},
		},
		{
			name: "navbar",
			as:   []string{"navbar"},
			tags: []string{"header"},
			only: func(r *reader, n *html.Node, in scope) bool {
				return some(n, "nav") != nil && some(n, "h2", "h3") == nil
			},
			with: func(*reader, *html.Node, scope) float64 { return 0.96 },
		},
		{
			name:  "page header",
			as:    []string{"page header"},
			tags:  []string{"header"},
			words: []string{"page-header", "page-title", "page-heading", "title-bar", "pageheader"},
			only: func(r *reader, n *html.Node, in scope) bool {
				return in.kind != "card" && in.kind != "dialog" && some(n, "h1", "h2") != nil
			},
			with: func(r *reader, n *html.Node, _ scope) float64 {
				if some(n, "h1") == nil {
					return 0.75
				}
				return 0.95
			},
		},
		{
			name:  "dialog",
			as:    []string{"dialog"},
			tags:  []string{"dialog"},
			roles: []string{"dialog", "alertdialog"},
			words: []string{"modal", "dialog", "popup"},
		},
		{name: "drawer", as: []string{"drawer"}, words: []string{"drawer", "off-canvas", "offcanvas", "side-sheet"}},
		{name: "toast", as: []string{"toast"}, words: []string{"toast", "snackbar", "notification"}},
		{
			name:  "alert",
			as:    []string{"alert"},
			roles: []string{"alert", "status"},
			words: []string{"alert", "callout", "banner", "notice", "message", "flash"},
			only:  func(r *reader, n *html.Node, _ scope) bool { return text(n) != "" },
		},
		{
			name:  "empty state",
			as:    []string{"empty state"},
			words: []string{"empty-state", "empty", "no-results", "blank-slate", "nothing-here"},
			only:  func(r *reader, n *html.Node, _ scope) bool { return len(elements(n)) > 0 },
		},
		{name: "hero", as: []string{"hero"}, words: []string{"hero", "jumbotron", "masthead"}},
		{
			name:  "stat",
			as:    []string{"summary box", "stat"},
			words: []string{"stat", "metric", "kpi", "summary-box", "figure-box"},
			only:  func(r *reader, n *html.Node, _ scope) bool { return len(elements(n)) >= 2 },
		},
		{
			name:  "card",
			as:    []string{"card"},
			tags:  []string{"article"},
			words: []string{"card", "tile", "panel"},
			only: func(r *reader, n *html.Node, in scope) bool {
				_, p := classes(n)
				part := slices.ContainsFunc(p, func(s string) bool {
					return slices.Contains(
						[]string{
							"body",
							"header",
							"footer",
							"title",
							"text",
							"group",
							"grid",
							"list",
							"deck",
							"columns",
							"content",
							"actions",
							"image",
							"img",
							"media",
							"row",
							"wrapper",
							"container",
						},
						s,
					)
				})
				return !part && in.kind != "card"
			},
		},
		{
			name:  "button group",
			as:    []string{"button group"},
			roles: []string{"toolbar"},
			words: []string{"btn-group", "button-group", "buttons", "toolbar", "button-row", "btn-toolbar"},
			only: func(r *reader, n *html.Node, _ scope) bool {
				list := elements(n)
				return len(list) > 1 && !slices.ContainsFunc(list, func(c *html.Node) bool {
					k := r.recognise(c, scope{})
					return k == nil || k.kind.name != "button" && k.kind.name != "icon button"
				})
			},
		},
		{
			name:  "menu",
			as:    []string{"menu"},
			roles: []string{"menu"},
			words: []string{"dropdown", "menu", "popup-menu"},
			only: func(r *reader, n *html.Node, in scope) bool {
				return in.kind != "menu" && in.kind != "navbar" &&
					(some(n, "button", "ul") != nil || attr(n, "role") == "menu")
			},
		},
		{
			name:  "menu",
			as:    []string{"menu"},
			words: []string{"dropdown"},
			only: func(r *reader, n *html.Node, in scope) bool {
				return in.kind == "navbar" && some(n, "ul", "div") != nil
			},
		},
		{
			name:  "menu item",
			as:    []string{"menu item"},
			tags:  []string{"a", "button", "li"},
			roles: []string{"menuitem"},
			only:  inside("menu"),
		},
		{
			name: "nav item",
			as:   []string{"nav item", "navigation link"},
			tags: []string{"a", "button"},
			only: inside("navbar", "side navigation"),
			with: func(r *reader, n *html.Node, _ scope) float64 {
				w, p := classes(n)
				if slices.ContainsFunc(
					append(w, p...),
					func(s string) bool { return slices.Contains([]string{"btn", "button", "brand", "logo"}, s) },
				) ||
					n.Data == "button" {
					return 0
				}
				return 0.96
			},
		},
		{
			name: "nav group",
			as:   []string{"nav group"},
			tags: []string{"li", "details"},
			only: func(r *reader, n *html.Node, in scope) bool {
				return (in.kind == "navbar" || in.kind == "side navigation") && some(n, "ul") != nil &&
					count(n, isLink) > 1
			},
			with: func(*reader, *html.Node, scope) float64 { return 0.9 },
		},
		{
			name: "crumb",
			as:   []string{"crumb"},
			tags: []string{"a", "li", "span"},
			only: func(r *reader, n *html.Node, in scope) bool {
				return in.kind == "breadcrumbs" && text(n) != "" &&
					!slices.Contains([]string{"/", ">", "›", "»", "·"}, text(n))
			},
			with: func(*reader, *html.Node, scope) float64 { return 0.96 },
		},
		{name: "skip", tags: []string{"span", "li", "svg", "i"}, only: func(r *reader, n *html.Node, in scope) bool {
			return in.kind == "breadcrumbs" && slices.Contains([]string{"", "/", ">", "›", "»", "·"}, text(n))
		}, with: func(*reader, *html.Node, scope) float64 { return 0.99 }},
		{
			name:  "avatar",
			as:    []string{"avatar"},
			tags:  []string{"img"},
			words: []string{"avatar", "user-pic", "profile-picture", "initials"},
			only: func(r *reader, n *html.Node, _ scope) bool {
				w, p := classes(n)
				return slices.ContainsFunc(append(w, p...), func(s string) bool {
					return s == "avatar" || s == "initials" || s == "user-pic" || s == "profile-picture"
				}) && count(n, func(c *html.Node) bool { return !inline[c.Data] && c.Data != "img" }) == 0
			},
			with: func(*reader, *html.Node, scope) float64 { return 0.97 },
		},
		{
			name:  "picture",
			as:    []string{"picture"},
			tags:  []string{"img"},
			roles: []string{"img"},
			only:  func(r *reader, n *html.Node, _ scope) bool { return n.Data == "img" },
		},
		{
			name: "picture",
			as:   []string{"picture"},
			tags: []string{"picture", "figure"},
			only: func(r *reader, n *html.Node, _ scope) bool {
				return some(n, "img") != nil &&
					count(
						n,
						func(c *html.Node) bool { return c.Data != "img" && c.Data != "source" && c.Data != "figcaption" },
					) == 0
			},
		},
		{
			name:  "icon",
			as:    []string{"icon"},
			tags:  []string{"svg"},
			words: []string{"icon", "ico", "glyph"},
			only: func(r *reader, n *html.Node, _ scope) bool {
				return n.Data == "svg" || len(elements(n)) == 0 || some(n, "svg") != nil && text(n) == ""
			},
		},
		{
			name:  "badge",
			as:    []string{"badge"},
			words: []string{"badge", "counter", "count"},
			only:  func(r *reader, n *html.Node, _ scope) bool { return number(text(n)) && n.Parent != nil },
		},
		{
			name:  "chip",
			as:    []string{"chip", "tag"},
			tags:  []string{"mark"},
			words: []string{"badge", "chip", "tag", "pill", "label", "status", "lozenge"},
			only: func(r *reader, n *html.Node, _ scope) bool {
				return text(n) != "" && len([]rune(text(n))) < 40 && n.Data != "label" && n.Data != "form" &&
					onlyInlineTags(n)
			},
		},
		{
			name:  "spinner",
			as:    []string{"spinner"},
			words: []string{"spinner", "loader", "loading"},
			only:  func(r *reader, n *html.Node, _ scope) bool { return len(elements(n)) <= 2 },
		},
		{
			name:  "progress",
			as:    []string{"progress"},
			tags:  []string{"progress", "meter"},
			roles: []string{"progressbar", "meter"},
			words: []string{"progress", "progress-bar"},
			only:  func(r *reader, n *html.Node, _ scope) bool { return !isControl(n) && some(n, headings...) == nil },
		},
		{
			name:  "divider",
			as:    []string{"divider"},
			tags:  []string{"hr"},
			roles: []string{"separator"},
			words: []string{"divider", "separator"},
			only:  func(r *reader, n *html.Node, _ scope) bool { return text(n) == "" },
		},
		{name: "facts", as: []string{"facts", "description list"}, tags: []string{"dl"}},
		{name: "steps", as: []string{"steps"}, words: []string{"steps", "stepper", "wizard"}},
		{
			name: "step",
			weak: true,
			as:   []string{"step"},
			tags: []string{"li", "div", "span", "a"},
			only: inside("steps"),
			with: func(*reader, *html.Node, scope) float64 { return 0.92 },
		},
		{name: "key", as: []string{"key", "keyboard key"}, tags: []string{"kbd"}},
		{
			name:  "footer",
			as:    []string{"footer"},
			tags:  []string{"footer"},
			roles: []string{"contentinfo"},
			words: []string{"site-footer", "page-footer"},
			only: func(r *reader, n *html.Node, in scope) bool {
				return in.kind != "card" && in.kind != "dialog" && some(n, "button", "form") == nil
			},
		},
		{
			name:  "gallery",
			as:    []string{"gallery"},
			words: []string{"gallery", "photos"},
			only: func(r *reader, n *html.Node, _ scope) bool {
				return count(n, func(c *html.Node) bool { return c.Data == "img" }) > 1
			},
		},
		{
			name:  "list",
			weak:  true,
			as:    []string{"list"},
			tags:  []string{"ul", "ol"},
			roles: []string{"list"},
			words: []string{"list-group", "list"},
			only: func(r *reader, n *html.Node, in scope) bool {
				return in.kind != "navbar" && in.kind != "side navigation" && in.kind != "menu" &&
					in.kind != "breadcrumbs" &&
					in.kind != "footer" &&
					in.kind != "steps" &&
					in.kind != "tabs" &&
					len(elements(n)) > 0 &&
					!r.rich(n)
			},
		},
		{
			name:  "list item",
			as:    []string{"list item"},
			tags:  []string{"li", "a"},
			roles: []string{"listitem"},
			words: []string{"list-group-item", "list-item"},
			only:  inside("list"),
		},
		{name: "heading", as: []string{"heading"}, tags: headings, roles: []string{"heading"}},
		{
			name:  "link",
			weak:  true,
			as:    []string{"link"},
			tags:  []string{"a"},
			roles: []string{"link"},
			only:  func(r *reader, n *html.Node, _ scope) bool { return text(n) != "" },
		},
		{
			name: "text",
			as:   []string{"text", "paragraph"},
			tags: []string{"p", "figcaption", "legend", "caption", "address", "blockquote", "pre", "cite"},
			only: func(r *reader, n *html.Node, _ scope) bool { return r.onlyInline(n) && text(n) != "" },
		},
		{
			name: "text",
			as:   []string{"text", "paragraph"},
			tags: []string{
				"span",
				"small",
				"strong",
				"b",
				"em",
				"i",
				"time",
				"code",
				"u",
				"s",
				"mark",
				"abbr",
				"label",
				"data",
				"sub",
				"sup",
				"q",
				"font",
				"div",
				"li",
				"td",
				"dd",
				"dt",
			},
			only: func(r *reader, n *html.Node, _ scope) bool { return r.onlyInline(n) && text(n) != "" },
			with: func(r *reader, n *html.Node, _ scope) float64 {
				w, _ := classes(n)
				if len(w) == 0 || n.Data != "div" {
					return 0.6
				}
				return 0.5
			},
		},
	}
}

func onlyInlineTags(n *html.Node) bool {
	return count(n, func(c *html.Node) bool {
		return !inline[c.Data] && c.Data != "svg" && c.Data != "path" && c.Data != "button"
	}) == 0
}

// rich tells whether the items of a list are more than a line each.
func (r *reader) rich(n *html.Node) bool {
	return slices.ContainsFunc(elements(n), func(c *html.Node) bool {
		if some(c, headings...) != nil || count(c, isControl) > 0 {
			return true
		}
		k := r.recognise(c, scope{})
		return k != nil && k.kind.name == "card"
	})
}

func number(s string) bool {
	return s != "" && strings.Trim(s, "0123456789+.,") == ""
}

// found is a kind that an element was recognised as.
type found struct {
	kind      *kind
	certainty float64
	why       string
	others    []*found
}

// asked is a question about a node that was answered already: conditions ask about
// what stands inside, level by level, which would never end otherwise.
type asked struct {
	n    *html.Node
	kind string
}

// recognise tells what an element is; nil where nothing tells.
func (r *reader) recognise(n *html.Node, in scope) *found {
	key := asked{n, in.kind}
	f, known := r.known[key]
	if !known {
		f = r.tell(n, in)
		r.known[key] = f
	}
	return f
}

func (r *reader) tell(n *html.Node, in scope) *found {
	if n.Type != html.ElementNode {
		return nil
	}
	whole, parts := classes(n)
	role := strings.ToLower(attr(n, "role"))
	var list []*found
	for i := range kinds {
		k := &kinds[i]
		f := &found{kind: k}
		better := func(c float64, why string) {
			if c > f.certainty {
				f.certainty, f.why = c, why
			}
		}
		if role != "" && slices.Contains(k.roles, role) {
			better(0.96, "its role is "+role)
		}
		for _, w := range k.words {
			if slices.Contains(whole, w) {
				better(0.92, "its class is "+w)
			} else if slices.Contains(parts, w) || slices.ContainsFunc(whole, func(c string) bool {
				return strings.HasSuffix(c, "-"+w) || strings.HasPrefix(c, w+"-") || strings.Contains(c, "__"+w)
			}) {
				better(0.8, "its class speaks of "+w)
			}
		}
		if slices.Contains(k.tags, n.Data) {
			c := 0.94
			if k.weak {
				c = 0.84
			}
			better(c, "it is <"+n.Data+">")
		}
		if f.certainty == 0 || k.only != nil && !k.only(r, n, in) {
			continue
		}
		if k.with != nil {
			c := k.with(r, n, in)
			if c == 0 {
				continue
			}
			f.certainty = c
		}
		// A part of a component's class name tells of its part, not of itself.
		if part := partOf(whole, k.words); part && !slices.Contains(k.tags, n.Data) &&
			(role == "" || !slices.Contains(k.roles, role)) {
			f.certainty *= 0.5
		}
		list = append(list, f)
	}
	if len(list) == 0 {
		return nil
	}
	slices.SortStableFunc(list, func(a, b *found) int {
		switch {
		case a.certainty > b.certainty:
			return -1
		case a.certainty < b.certainty:
			return 1
		}
		return 0
	})
	if list[0].certainty < 0.45 {
		return nil
	}
	for _, o := range list[1:] {
		if o.kind.name != list[0].kind.name &&
			!slices.ContainsFunc(list[0].others, func(p *found) bool { return p.kind.name == o.kind.name }) {
			list[0].others = append(list[0].others, o)
		}
	}
	return list[0]
}

// partWords name parts of things.
var partWords = []string{
	"header",
	"body",
	"footer",
	"title",
	"content",
	"text",
	"wrapper",
	"container",
	"inner",
	"item",
	"items",
	"image",
	"img",
	"media",
	"icon",
	"actions",
	"toggle",
	"toggler",
	"close",
	"label",
	"heading",
	"description",
	"subtitle",
	"desc",
	"list",
	"link",
	"group",
	"overlay",
	"backdrop",
	"left",
	"right",
	"start",
	"end",
	"brand",
	"logo",
	"number",
	"value",
	"row",
	"grid",
	"deck",
	"columns",
}

// partOf tells whether classes name a part of what the words name: card-body of card.
func partOf(whole, words []string) bool {
	for _, c := range whole {
		for _, w := range words {
			rest, ok := strings.CutPrefix(c, w)
			if !ok || rest == "" {
				if ok {
					return false // the thing itself
				}
				continue
			}
			rest = strings.Trim(rest, "-_")
			first, _, _ := strings.Cut(rest, "-")
			if slices.Contains(partWords, rest) || slices.Contains(partWords, first) {
				return true
			}
		}
	}
	return false
}
