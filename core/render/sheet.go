package render

import (
	"fmt"
	"slices"
	"strings"

	"ubiquant/core/kit"
)

// Sheet generates the one style sheet that layouts need, from the kit's spacing
// tokens. Breakpoints are container queries on the screen's root (.u-screen), so
// that a tile, a phone and a delivered page agree.
func Sheet(k *kit.Kit) string {
	var b strings.Builder
	sides := [][2]string{
		{"above", "block-start"},
		{"below", "block-end"},
		{"start", "inline-start"},
		{"end", "inline-end"},
	}
	// A class written twice weighs more than one: what is said of a side holds over a
	// padding that is set from a width on. Custom properties would do the same, but a change
	// of one has the browser look at all that stands inside.
	side := func(s [2]string, step, suffix, room string) {
		class := ".u-" + s[0] + "-" + step + suffix
		fmt.Fprintf(&b, "%s%s{padding-%s:%s}", class, class, s[1], room)
	}
	space := func(step string) string {
		if t, ok := k.Tokens.Find("space." + step); ok {
			if k.Plain { // nobody but us knows of them
				return t.Values[k.Tokens.Themes[0]]
			}
			return "var(" + t.CSS + ")"
		}
		return fmt.Sprintf("var(--%s-space-%s)", k.Prefix, step)
	}
	usual := "4"
	if steps := k.Tokens.Steps("space"); !slices.Contains(steps, usual) && len(steps) > 0 {
		usual = steps[len(steps)/2]
	}
	if k.Drawn != "" {
		// What a page says of an element holds over what the element says of itself, however
		// weak: an element keeps the width that its kit gives it. A framework's class wins anyway.
		b.WriteString(":where(.u-stack>*,.u-section>*,.u-column>*){max-width:100%}\n")
	}
	fmt.Fprintf(&b, `.u-screen{container-type:inline-size;display:flow-root;min-height:100%%}
.u-section,.u-stack,.u-row,.u-column,.u-grid{--u-gap:%s;box-sizing:border-box;min-width:0}
.u-section,.u-stack,.u-column{display:flex;flex-direction:column;gap:var(--u-gap)}
.u-section>.u-section{width:100%%}
.u-stack>*,.u-section>*,.u-column>*{flex:none;min-width:0}
.u-row{--u-row-gap:var(--u-gap);display:flex;flex-wrap:wrap;gap:var(--u-gap)}
.u-row>*{flex:1 1 0;min-width:0}
.u-grid{display:grid;gap:var(--u-gap);grid-template-columns:repeat(auto-fill,minmax(min(var(--u-least,240px),100%%),1fr))}
.u-grid>*{min-width:0}
.u-spacer{flex:1 1 auto!important}
.u-outlet{flex:1 1 auto;min-height:160px;border:1px dashed;border-color:color-mix(in srgb,currentColor 45%%,transparent);background:color-mix(in srgb,currentColor 5%%,transparent)}
.u-width-page{max-width:1200px;margin-inline:auto;width:100%%}
.u-width-reading{max-width:720px;margin-inline:auto;width:100%%}
.u-wrap-on{flex-wrap:wrap}
.u-stays-top{position:sticky;top:0;z-index:2}.u-stays-bottom{position:sticky;bottom:0;z-index:2}
.u-heights-own{align-items:start}
.u-heights-packed{display:block;column-gap:var(--u-gap);column-width:var(--u-least,240px)}.u-heights-packed>*{break-inside:avoid;margin-block-end:var(--u-gap);width:100%%}
.u-least-160{--u-least:160px}.u-least-200{--u-least:200px}.u-least-320{--u-least:320px}.u-least-400{--u-least:400px}
.u-align-start{align-items:flex-start}.u-align-center{align-items:center}.u-align-end{align-items:flex-end}.u-align-stretch{align-items:stretch}
.u-spread-center{justify-content:center}.u-spread-end{justify-content:flex-end}.u-spread-between{justify-content:space-between}
.u-picture{min-width:16px;min-height:16px;background:repeating-linear-gradient(135deg,color-mix(in srgb,currentColor 14%%,transparent) 0 2px,transparent 2px 8px)}
[data-broken]{outline:1px dashed;outline-offset:-1px;padding:2px 6px}
.u-unknown{border:1px dashed currentColor;padding:8px;font:12px/1.4 monospace}
`, space(usual))
	rules := func(suffix string) {
		for _, step := range k.Tokens.Steps("space") {
			fmt.Fprintf(&b, ".u-gap-%s%s{--u-gap:%s}", step, suffix, space(step))
			fmt.Fprintf(&b, ".u-padding-%s%s{padding:%s}", step, suffix, space(step))
			for _, s := range sides {
				side(s, step, suffix, space(step))
			}
			if suffix == "" {
				fmt.Fprintf(&b, ".u-size-%s{flex:0 0 %s!important}", step, space(step))
			}
		}
		for _, s := range sides {
			side(s, "0", suffix, "0")
		}
		for n := 1; n <= 12; n++ {
			fmt.Fprintf(
				&b,
				".u-span-%d%s{flex:0 0 calc((100%% + var(--u-row-gap)) * %d / 12 - var(--u-row-gap))}",
				n,
				suffix,
				n,
			)
		}
		fmt.Fprintf(&b, ".u-span-auto%s{flex:1 1 0}", suffix)
		for n := 0; n <= 6; n++ {
			fmt.Fprintf(
				&b,
				".u-offset-%d%s{margin-inline-start:calc((100%% + var(--u-row-gap)) * %d / 12)}",
				n,
				suffix,
				n,
			)
		}
		fmt.Fprintf(
			&b,
			".u-order-first%s{order:-1}.u-order-own%s{order:0}.u-order-last%s{order:1}",
			suffix,
			suffix,
			suffix,
		)
		for n := 1; n <= 6; n++ {
			fmt.Fprintf(
				&b,
				".u-columns-%d%s{grid-template-columns:repeat(%d,minmax(0,1fr))}.u-heights-packed.u-columns-%d%s{columns:%d}",
				n,
				suffix,
				n,
				n,
				suffix,
				n,
			)
		}
		fmt.Fprintf(
			&b,
			".u-columns-fit%s{grid-template-columns:repeat(auto-fill,minmax(min(var(--u-least,240px),100%%),1fr))}.u-heights-packed.u-columns-fit%s{columns:var(--u-least,240px)}",
			suffix,
			suffix,
		)
		fmt.Fprintf(
			&b,
			".u-direction-down%s{flex-direction:column}.u-direction-across%s{flex-direction:row}",
			suffix,
			suffix,
		)
		fmt.Fprintf(&b, ".u-direction-across%s>*{flex:0 1 auto}\n", suffix)
	}
	rules("")
	for _, w := range kit.Breakpoints {
		fmt.Fprintf(&b, "@container (min-width:%spx){", w)
		rules(`\@` + w)
		b.WriteString("}\n")
	}
	return b.String()
}

// TokenCSS writes the tokens as custom properties, one block a theme.
func TokenCSS(k *kit.Kit) string {
	var b strings.Builder
	for i, theme := range k.Tokens.Themes {
		selector := fmt.Sprintf("[data-theme='%s']", theme)
		if i == 0 {
			selector = ":root, " + selector
		}
		b.WriteString(selector + " {\n")
		for _, t := range k.Tokens.List {
			if i == 0 || t.Values[theme] != t.Values[k.Tokens.Themes[0]] {
				fmt.Fprintf(&b, "  %s: %s;\n", t.CSS, t.Values[theme])
			}
		}
		b.WriteString("}\n")
	}
	return b.String()
}
