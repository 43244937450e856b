package intake_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ubiquant/core/kit/pack"
)

// usual is what the props of a library are where nothing is set, "Button.size": "m".
func usual(a *pack.Archive) map[string]string {
	out := map[string]string{}
	for _, e := range a.Catalog.Entries {
		for _, p := range e.Props {
			if p.Default != "" {
				out[e.Export+"."+p.Name] = p.Default
			}
		}
	}
	return out
}

// What a setting is where nothing is set stands in the code of React's components, in each of the ways
// that people and compilers write it, and in no declaration. What cannot be a value of it, what is
// computed and what another component sets is not taken.
func TestWhatIsSetWhereNothingIsReadFromCodeOfReact(t *testing.T) {
	const types = `import * as React from 'react'
type Size = 'snug' | 'roomy'
export declare const Button: React.ForwardRefExoticComponent<{ size?: Size; wide?: boolean; rows?: number; lead?: string; tone?: 'calm' | 'loud' } & React.RefAttributes<HTMLButtonElement>>
export declare const Note: (p: { size?: Size; rows?: number }) => React.ReactElement
export declare const Tag: (p: { tone?: 'calm' | 'loud'; size?: Size }) => React.ReactElement
export declare const Chip: (p: { tone?: 'calm' | 'loud'; size?: Size }) => React.ReactElement
export declare class Field extends React.Component<{ size?: Size; rows?: number }> { render(): React.ReactElement }
export declare const Card: ((p: { size?: Size }) => React.ReactElement) & {
  Head: React.ForwardRefExoticComponent<React.HTMLAttributes<HTMLDivElement> & React.RefAttributes<HTMLDivElement>>
  Foot: React.ForwardRefExoticComponent<React.HTMLAttributes<HTMLDivElement> & React.RefAttributes<HTMLDivElement>>
  Title: typeof CardTitle
}
export declare const CardTitle: (p: { level?: 'h2' | 'h3' }) => React.ReactElement
`
	a := archiveBeside(t, "yarrow", map[string]string{
		plum + "package.json":     `{"name":"@acme/plum-day","version":"1.2.0","module":"es/index.js","types":"types/index.d.ts","peerDependencies":{"react":"*"}}`,
		plum + "types/index.d.ts": types,
		plum + "es/index.js": `export { Button } from './button.js'; export * from './note.js'; export { default as Tag, Pill as Chip } from './tag'
export { Field } from './field.js'; export * from './card.js'`,
		plum + "es/button.js": `import { forwardRef, createElement, memo } from "react"
const Base = forwardRef(({ size = "snug", wide = !0, rows = 3, lead = now(), tone = "grim", ...rest }, ref) => createElement("button", rest))
const now = () => "" + Date.now()
export const Button = memo(Base)`,
		plum + "es/note.js": `import { createElement } from "react"
function Note(_ref) { var _size = _ref.size, size = _size === void 0 ? "roomy" : _size, rows = _ref.rows === void 0 ? 4 : _ref.rows; return createElement("p", { size, rows }) }
export { Note }`,
		plum + "es/tag.js": `import { createElement } from "react"
import { looks } from './looks.js'
const other = table({ defaultVariants: { size: "snug" } }), table = x => x
export default function Tag({ tone, size, ...rest }) { return createElement("i", { className: looks({ tone }), ...rest }) }
const said = { tone: { type: "enum", values: ["calm", "loud"], default: "loud", className: "t" } }
export const Pill = props => { const { tone, size = "snug", ...rest } = given(props, said); return createElement("i", rest) }
const given = p => p`,
		plum + "es/looks.js": `export const looks = table("base", { variants: { tone: {} }, defaultVariants: { tone: "calm" } })
function table() { return () => "" }`,
		plum + "es/field.js": `import { Component } from "react"
export class Field extends Component { static defaultProps = { size: "roomy" }; render() { return null } }
Field.defaultProps = { rows: 2 }`,
		plum + "es/card.js": `import { createElement } from "react"
const Root = ({ size = "roomy" }) => createElement("div"), Head = p => createElement("div", p), Foot = p => createElement("div", p)
export const CardTitle = ({ level = "h2" }) => createElement(level)
export const Card = Object.assign(Root, { Head, Foot, Title: CardTitle })`,
	})
	assert.Equal(t, map[string]string{
		"Button.size": "snug", "Button.wide": "true", "Button.rows": "3",
		"Note.size": "roomy", "Note.rows": "4",
		"Tag.tone": "calm", "Chip.tone": "loud", "Chip.size": "snug",
		"Field.size": "roomy", "Field.rows": "2",
		"Card.size": "roomy", "CardTitle.level": "h2",
	}, usual(a))
	// Parts that are typed alike are components of their own; what has a name already is not one more.
	exports := []string{}
	for _, e := range a.Catalog.Entries {
		exports = append(exports, e.Export)
	}
	assert.Subset(t, exports, []string{"Card", "Card.Head", "Card.Foot", "CardTitle"})
	assert.NotContains(t, exports, "Card.Title")
}

// The same of Vue: what components say of their props, what they take over from others, and what they
// set otherwise there. Two of one name in a file that say different things are neither.
func TestWhatIsSetWhereNothingIsReadFromCodeOfVue(t *testing.T) {
	made := func(props string) string {
		return `declare const it: { new (): { $props: { ` + props + ` }; $slots: {} } }; export default it`
	}
	a := archiveBeside(t, "tansy", map[string]string{
		plum + "package.json":     `{"name":"@acme/plum-day","version":"1.2.0","module":"es/index.js","types":"es/index.d.ts","peerDependencies":{"vue":"^3"}}`,
		plum + "es/index.js":      `export { default as Button } from './button.js'; export { default as Dial } from './dial.js'`,
		plum + "es/index.d.ts":    `export { default as Button } from './button'; export { default as Dial } from './dial'`,
		plum + "es/button.d.ts":   made(`size?: "roomy" | "snug"; tone?: "calm" | "loud"; wide?: boolean; lead?: string; rows?: number`),
		plum + "es/button.js":     `import { common, makeTone } from './common.js'; const list = { ...common(), ...makeTone({ tone: "loud" }), wide: { type: Boolean, default: true }, lead: { type: String, default: () => "x" } }; export default { name: 'PlumButton', props: list, setup: () => () => null }`,
		plum + "es/common.js":     `const build = (props, of) => () => props; export const common = build({ size: { type: String, default: "snug" } }, 'common'); export const makeTone = build({ tone: { type: String, default: "calm" } })`,
		plum + "es/dial.d.ts":     made(`size?: "roomy" | "snug"; rows?: number; tone?: "calm" | "loud"`),
		plum + "es/dial.js":       `import { dial } from './dial-props.js'; export default { setup: () => () => null }; const hand = { rows: { type: Number, default: 1 } }, ring = { rows: { type: Number, default: 2 } }`,
		plum + "es/dial-props.js": `export const dial = { size: { type: String, default: "roomy" } }`,
	})
	assert.Equal(t, map[string]string{
		"Button.size": "snug", "Button.tone": "loud", "Button.wide": "true", "Dial.size": "roomy",
	}, usual(a))
}
