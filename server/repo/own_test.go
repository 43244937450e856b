package repo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/kit/describe"
	"ubiquant/core/screen"
)

// own is an application with a folder of components of its own.
func own(pages map[string]string) map[string][]byte {
	files := texts(map[string]string{
		"package.json": `{"name":"seeds"}`,
		"src/ui/press.tsx": `interface Props extends React.ButtonHTMLAttributes<HTMLButtonElement> { look?: 'plain' | 'full'; busy?: boolean; wide: boolean }
export function Press({ look = 'plain', busy = false, ...rest }: Props) { return <button {...rest} /> }`,
		"src/ui/sheet.tsx":   `export const Sheet = ({ children }) => <section>{children}</section>`,
		"src/ui/unnamed.tsx": `export default function ({ children }) { return <i>{children}</i> }`,
		"src/ui/called.tsx":  "function Inner({ children }) { return <b>{children}</b> }\nexport { Inner as Outer }",
		"src/routes.tsx": `import { One } from './pages/one'
import { Two } from './pages/two'
export const routes = [{ path: '/one', element: <One /> }, { path: '/two', element: <Two /> }]`,
		"src/parts/head.tsx": `export function Head({ title, note, children }: { title: string; note?: string; children?: React.ReactNode }) {
  return <header className="flex"><h1>{title}</h1><small>{props.note}</small>{children}</header>
}`,
		"src/parts/once.tsx": `import { Press } from '../ui/press'
export const Once = ({ words, look }: { words: string; look: 'plain' | 'full' }) => <Press wide look={look}>{words}</Press>`,
	})
	for name, text := range pages {
		files[name] = []byte(text)
	}
	return files
}

// What a part of the team's is told stands where it says it: in its place where it is used once, else as
// what the part can be told; and it is followed because it has a place for content.
func TestWhatAPartIsToldIsWhatItSays(t *testing.T) {
	r := read(t, put(t, own(map[string]string{
		"src/pages/one.tsx": `import { Press } from '../ui/press'
import { Sheet } from '../ui/sheet'
import { Head } from '../parts/head'
import { Once } from '../parts/once'
export const One = () => <Sheet><Head title="One" note={late}><Press wide>Go</Press></Head><Once words="Only here" look="full" /></Sheet>`,
		"src/pages/two.tsx": `import { Press } from '../ui/press'
import { Sheet } from '../ui/sheet'
import { Head } from '../parts/head'
export const Two = () => <Sheet><Head title="Two" /><Press wide className={join('mt-2', late ? 'red' : 'green', on && 'b')}><Icon />Go <b>on</b></Press><Press wide>Stop</Press></Sheet>`,
	})), nil)
	assert.Equal(t, "ui-sheet\n  piece:head note== late title=One …\n    ui-press wide=true | Go\n  ui-press look=full wide=true | Only here\n", told(r, "screen:one"))
	head, ok := r.W.Doc("piece:head")
	require.True(t, ok)
	assert.Equal(t, "flex", head.Root.Origin.Look)
	assert.Contains(t, head.Props, screen.PieceProp{Name: "title", Element: head.Root.Children[0].ID})
	assert.Contains(t, head.Props, screen.PieceProp{Name: "note", Element: head.Root.Children[1].ID})

	two, _ := r.W.Doc("screen:two")
	press := two.Root.Children[1]
	assert.Equal(t, "mt-2 green", press.Origin.Look, "as it usually is")
	assert.Equal(t, 1, press.Origin.Behind)
	assert.Equal(t, "Go on", press.Text.Text)
	b, err := press.MarshalJSON()
	require.NoError(t, err)
	again := &screen.Element{}
	require.NoError(t, again.UnmarshalJSON(b))
	assert.Equal(t, press.Origin, again.Origin)
}

// Plain elements have what they are set to, under the names of HTML; what else code sets is noted as it
// stands there, on elements of every kind.
func TestWhatCodeSetsBesidesIsKept(t *testing.T) {
	r := read(t, put(t, own(map[string]string{
		"src/pages/one.tsx": `import { Press } from '../ui/press'
import { Sheet } from '../ui/sheet'
export const One = () => <Sheet data-row="3"><form action={send}><label htmlFor="bed" tabIndex="2" className="wide">Bed</label><input id="bed" type="text" defaultValue="North" readOnly maxLength={20} style={{ color: late }} onChange={e => set(e)} /></form><Press wide aria-label="Go" onClick={go} key="x">Go</Press></Sheet>`,
		"src/pages/two.tsx": `import { Press } from '../ui/press'
import { Sheet } from '../ui/sheet'
export const Two = () => <Sheet><Press wide>Go</Press><Press wide>Stop</Press></Sheet>`,
	})), nil)
	d, ok := r.W.Doc("screen:one")
	require.True(t, ok)
	var got []string
	d.Root.Walk(func(e, _ *screen.Element) bool {
		line := e.Type
		for _, p := range e.Props {
			line += " " + p.Name + "=" + p.Value.Text
		}
		for _, p := range e.Origin.Besides {
			line += " +" + p.Name + "=" + p.Value.Text
		}
		got = append(got, line)
		return true
	})
	require.Len(t, got, 5)
	assert.Equal(t, `ui-sheet +data-row=3`, got[0])
	assert.Equal(t, `html-form +action=send`, got[1])
	assert.Equal(t, `html-label for=bed tabindex=2`, got[2])
	assert.Contains(t, got[3], `html-input id=bed maxlength=20 readonly=true type=text value=North +style=`)
	assert.Contains(t, got[3], `+onChange=`)
	assert.Equal(t, `ui-press wide=true +aria-label=Go +onClick=go`, got[4])
}

// A prop may be what is declared of it, and is what the code takes where nothing is set.
func TestPropsOfOwnComponentsAreWhatIsDeclaredAndTaken(t *testing.T) {
	r := read(t, put(t, own(map[string]string{
		"src/pages/one.tsx": "import { Press } from '../ui/press'\nimport { Sheet } from '../ui/sheet'\nimport { Outer } from '../ui/called'\nexport const One = () => <Sheet><Press wide>Go</Press><Press wide>On</Press><Outer>in</Outer></Sheet>",
		"src/pages/two.tsx": "import { Press } from '../ui/press'\nimport { Sheet } from '../ui/sheet'\nimport Quiet from '../ui/unnamed'\nexport const Two = () => <Sheet><Press wide>Go</Press><Quiet>on</Quiet></Sheet>",
	})), nil)
	require.NotEmpty(t, r.Catalogs)
	press, ok := r.Catalogs[0].Find("ui-press")
	require.True(t, ok)
	by := map[string]describe.Prop{}
	for _, p := range press.Props {
		by[p.Name] = p
	}
	assert.Equal(t, "choice", by["look"].Type)
	assert.Equal(t, []string{"plain", "full"}, by["look"].Values)
	assert.Equal(t, "plain", by["look"].Default)
	assert.Equal(t, "yes/no", by["busy"].Type)
	assert.True(t, by["wide"].Required)
	// Each knows how code takes it.
	for id, want := range map[string][2]any{"ui-outer": {"Outer", false}, "ui-unnamed": {"Unnamed", true}} {
		e, ok := r.Catalogs[0].Find(id)
		require.True(t, ok, id)
		assert.Equal(t, want, [2]any{e.Export, e.Default}, id)
	}
	assert.Contains(t, told(r, "screen:one"), "ui-outer | in")
	assert.Contains(t, told(r, "screen:two"), "ui-unnamed | on")
}
