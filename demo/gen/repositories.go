package main

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
)

// repository is one of the two that the demo brings: screens in code, by four people who write
// in ways of their own, with slips that they made without noticing.
type repository struct {
	dir     string
	files   map[string]string
	planted []plantedSlip
}

// plantedSlip is a slip in code: where it is and what it is about.
type plantedSlip struct {
	File string `json:"file"`
	Find string `json:"find"` // text of the line it stands in
	Prop string `json:"prop"` // prop, "text", or the rule that tells it
}

// thing is what a group of screens is about.
type thing struct {
	one, many string
	author    int // who wrote its screens
	fields    []string
	states    []string
}

var officeThings = []thing{
	{"ticket", "tickets", 0, []string{"Title", "Due", "Assignee"}, []string{"open", "doing", "done"}},
	{"bed", "beds", 1, []string{"Name", "House", "Light"}, []string{"planted", "resting"}},
	{"specimen", "specimens", 2, []string{"Name", "Family", "Bed"}, []string{"thriving", "fair", "poor"}},
	{"round", "rounds", 3, []string{"Name", "Day", "Gardener"}, []string{"planned", "done"}},
	{"order", "orders", 0, []string{"Supplier", "Ordered", "Total"}, []string{"sent", "arrived"}},
	{"volunteer", "volunteers", 1, []string{"Name", "Email", "Since"}, []string{"active", "away"}},
	{"shift", "shifts", 2, []string{"Place", "Starts", "Volunteer"}, []string{"open", "taken"}},
	{"count", "counts", 3, []string{"Bed", "Counted", "Number"}, []string{"draft", "final"}},
	{"message", "messages", 0, []string{"Subject", "Sender", "Received"}, []string{"new", "read"}},
	{"supplier", "suppliers", 1, []string{"Name", "Town", "Phone"}, []string{"usual", "spare"}},
}

func upper(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

// variable is the name that a field has in code.
func variable(field string) string { return strings.ToLower(field[:1]) + field[1:] }

func (r *repository) put(file, text string) { r.files[file] = text }

// slip plants one: where the file and the kind are those of a slip, the other text stands.
func (r *repository) slip(file, usual, other, find, prop string) string {
	r.planted = append(r.planted, plantedSlip{file, find, prop})
	return other
}

func (r *repository) write() error {
	if err := os.RemoveAll(r.dir); err != nil {
		return err
	}
	var b strings.Builder
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	e.SetIndent("", " ")
	if err := e.Encode(map[string]any{"description": "Slips planted in this repository, as four developers would have made them.", "slips": r.planted}); err != nil {
		return err
	}
	r.files["planted.json"] = b.String()
	for name, text := range r.files {
		file := filepath.Join(r.dir, filepath.FromSlash(name))
		if err := os.MkdirAll(filepath.Dir(file), 0o755); err != nil {
			return err
		}
		if err := os.WriteFile(file, []byte(text), 0o644); err != nil {
			return err
		}
	}
	return nil
}

// choose is the usual text of a screen, or the slip of one file.
func (r *repository) choose(file, at, usual, other, find, prop string) string {
	if file != at {
		return usual
	}
	return r.slip(file, usual, other, find, prop)
}

// office is the garden's office: React with Yarrow.
func office(dir string) *repository {
	r := &repository{dir: dir, files: map[string]string{}}
	r.put("package.json", `{
  "name": "fernhollow-office",
  "private": true,
  "type": "module",
  "dependencies": {
    "@fernhollow/yarrow": "file:../../kits/yarrow",
    "react": "19.2.0",
    "react-dom": "19.2.0",
    "react-router": "7.9.0"
  }
}
`)
	r.put("tsconfig.json", `{
  "compilerOptions": {
    "strict": true,
    "jsx": "react-jsx",
    "moduleResolution": "bundler",
    // what is imported from "~" lies in src
    "paths": { "~/*": ["./src/*"] }
  }
}
`)
	r.put("CODEOWNERS", "* @ida\n/src/screens/tickets/ @ida\n/src/screens/orders/ @ida\n/src/screens/messages/ @ida\n/src/screens/beds/ @bruno\n/src/screens/volunteers/ @bruno\n/src/screens/suppliers/ @bruno\n/src/screens/specimens/ @cleo\n/src/screens/shifts/ @cleo\n/src/screens/rounds/ @dag\n/src/screens/counts/ @dag\n")
	r.put("src/Frame.tsx", `import { AppBar, Avatar, NavLink } from '@fernhollow/yarrow'
import { Outlet } from 'react-router'

export function Frame() {
  return (
    <>
      <AppBar brand="Fernhollow" end={<Avatar name="Ida Fern" size="sm" />}>
        <NavLink href="/tickets">Tickets</NavLink>
        <NavLink href="/beds">Beds</NavLink>
        <NavLink href="/orders">Orders</NavLink>
      </AppBar>
      <main>
        <Outlet />
      </main>
    </>
  )
}
`)
	r.put("src/parts/ActionButton.tsx", `import { Button, type ButtonProps } from '@fernhollow/yarrow'

/** The kit's button, as this application has always called it. */
export const ActionButton = ({ children, ...rest }: ButtonProps) => <Button {...rest}>{children}</Button>
`)
	r.put("src/parts/index.ts", "export { ActionButton } from './ActionButton'\nexport * from './Empty'\n")
	r.put("src/parts/Empty.tsx", `import { Card, Text } from '@fernhollow/yarrow'

/** What stands where there is nothing yet. */
export function Empty({ what }: { what: string }) {
  return (
    <Card>
      <Text muted>There are no {what} yet.</Text>
    </Card>
  )
}
`)
	messages := map[string]map[string]string{"actions": {"save": "Save", "cancel": "Cancel", "edit": "Edit", "remove": "Remove"}}
	b, _ := json.MarshalIndent(messages, "", "  ")
	r.put("src/locales/en.json", string(b)+"\n")
	r.put("src/t.ts", "import en from './locales/en.json'\n\nexport function t(key: string): string {\n  return key.split('.').reduce<unknown>((o, k) => (o as Record<string, unknown>)?.[k], en) as string\n}\n")
	var imports, routes strings.Builder
	for _, th := range officeThings {
		dir := "src/screens/" + th.many + "/"
		One, Many := upper(th.one), upper(th.many)
		r.put(dir+Many+"List.tsx", r.officeList(dir+Many+"List.tsx", th))
		r.put(dir+"New"+One+".tsx", r.officeForm(dir+"New"+One+".tsx", th, true))
		r.put(dir+"Edit"+One+".tsx", r.officeForm(dir+"Edit"+One+".tsx", th, false))
		r.put(dir+One+"Page.tsx", r.officePage(dir+One+"Page.tsx", th))
		fmt.Fprintf(&imports, "import { %sList } from '~/screens/%s/%sList'\nimport { New%s } from '~/screens/%s/New%s'\nimport { Edit%s } from '~/screens/%s/Edit%s'\n", Many, th.many, Many, One, th.many, One, One, th.many, One)
		fmt.Fprintf(&routes, "      { path: '%[1]s', element: <%[2]sList /> },\n      { path: '%[1]s/new', element: <New%[3]s /> },\n      { path: '%[1]s/:id/edit', element: <Edit%[3]s /> },\n      { path: '%[1]s/:id', lazy: () => import('~/screens/%[1]s/%[3]sPage').then(m => ({ Component: m.%[3]sPage })) },\n", th.many, Many, One)
	}
	r.put("src/routes.tsx", "import { createBrowserRouter } from 'react-router'\nimport { Frame } from './Frame'\n"+imports.String()+`
export const router = createBrowserRouter([
  {
    path: '/',
    element: <Frame />,
    children: [
`+routes.String()+`    ],
  },
])
`)
	return r
}

// says is a text as its author writes it: some by keys.
func says(author int, key, text string) string {
	if author == 2 {
		return "{t('actions." + key + "')}"
	}
	return text
}

func imported(names ...string) string {
	return "import { " + strings.Join(names, ", ") + " } from '@fernhollow/yarrow'\n"
}

func (r *repository) officeList(file string, th thing) string {
	One, Many := upper(th.one), upper(th.many)
	button := "Button"
	head := imported("Badge", "Button", "Card", "DataTable", "Link", "PageHeader", "Pagination", "TextField")
	if th.author == 2 {
		button = "ActionButton"
		head = imported("Badge", "Card", "DataTable", "Link", "PageHeader", "Pagination", "TextField") + "import { ActionButton, Empty } from '~/parts'\nimport { t } from '~/t'\n"
	} else {
		head += "import { Empty } from '~/parts'\n"
	}
	main := r.choose(file, "src/screens/orders/OrdersList.tsx", ` variant="primary"`, "", "New order", "variant")
	words := r.choose(file, "src/screens/rounds/RoundsList.tsx", "New "+th.one, "Create "+th.one, "Create round", "text")
	subtle := r.choose(file, "src/screens/suppliers/SuppliersList.tsx", " subtle", "", "<Link", "subtle")
	small := r.choose(file, "src/screens/volunteers/VolunteersList.tsx", ` size="sm"`, "", `variant="ghost" href`, "size")
	edit := fmt.Sprintf("<%s%s variant=\"ghost\" href={`/%s/${%s.id}/edit`}>%s</%s>", button, small, th.many, th.one, says(th.author, "edit", "Edit"), button)
	if file == "src/screens/messages/MessagesList.tsx" {
		edit = r.slip(file, edit, "<button onClick={() => edit(message)}>Edit</button>", "<button onClick", "plain-element")
	}
	status := fmt.Sprintf("%s.state === '%s' ? 'success' : 'neutral'", th.one, th.states[len(th.states)-1])
	rows := fmt.Sprintf(`{%[1]s.map(%[2]s => (
          <tr key={%[2]s.id}>
            <td>
              <Link%[3]s href={`+"`/%[1]s/${%[2]s.id}`"+`}>{%[2]s.%[4]s}</Link>
            </td>
            <td>{%[2]s.%[5]s}</td>
            <td>
              <Badge status={%[6]s}>{%[2]s.state}</Badge>
            </td>
            <td>
              %[7]s
            </td>
          </tr>
        ))}`, th.many, th.one, subtle, variable(th.fields[0]), variable(th.fields[1]), status, edit)
	columns := fmt.Sprintf("[\n  { field: '%s', header: '%s' },\n  { field: '%s', header: '%s' },\n  { field: 'state', header: 'State' },\n  { field: 'actions', header: '' },\n]", variable(th.fields[0]), th.fields[0], variable(th.fields[1]), th.fields[1])
	action := fmt.Sprintf("<%[1]s%[2]s href=\"/%[3]s/new\">%[4]s</%[1]s>", button, main, th.many, words)
	prelude, header := "", fmt.Sprintf("<PageHeader title=\"%s\" actions={%s} />", Many, action)
	if th.author == 3 { // takes things apart into constants
		prelude = fmt.Sprintf("  const header = (\n    <PageHeader\n      title=\"%s\"\n      actions={\n        %s\n      }\n    />\n  )\n", Many, action)
		header = "{header}"
	}
	return head + fmt.Sprintf(`import { use%[1]s } from './data'

const columns = %[2]s

export function %[1]sList() {
  const { %[3]s, page, pages, turn, search } = use%[1]s()
%[4]s  return (
    <>
      %[5]s
      <Card>
        <TextField label="Search %[3]s" type="search" onChange={e => search(e.target.value)} />
      </Card>
      {%[3]s.length === 0 && <Empty what="%[3]s" />}
      <DataTable columns={columns}>
        %[6]s
      </DataTable>
      <Pagination page={page} pageCount={pages} onChange={turn} />
    </>
  )
}
`, Many, columns, th.many, prelude, header, rows) + "\nexport type " + One + "Row = ReturnType<typeof use" + Many + ">['" + th.many + "'][number]\n"
}

func (r *repository) officeForm(file string, th thing, fresh bool) string {
	One := upper(th.one)
	name, title := "New"+One, "New "+th.one
	if !fresh {
		name, title = "Edit"+One, "Edit "+th.one
	}
	button := "Button"
	head := imported("Button", "Card", "PageHeader", "Select", "TextField")
	if th.author == 2 {
		button = "ActionButton"
		head = imported("Card", "PageHeader", "Select", "TextField") + "import { ActionButton } from '~/parts'\nimport { t } from '~/t'\n"
	}
	cancel := r.choose(file, "src/screens/shifts/NewShift.tsx", `variant="ghost"`, `variant="secondary"`, "cancel", "variant")
	size := r.choose(file, "src/screens/beds/EditBed.tsx", "", ` size="lg"`, "Save", "size")
	save := says(th.author, "save", r.choose(file, "src/screens/counts/NewCount.tsx", "Save", "Submit", "Submit", "text"))
	var fields strings.Builder
	for i, f := range th.fields {
		kind := ""
		if i == 1 && (f == "Due" || f == "Day" || f == "Ordered" || f == "Starts" || f == "Counted" || f == "Received") {
			kind = ` type="date"`
		}
		fmt.Fprintf(&fields, "          <TextField label=\"%s\"%s value={values.%s} onChange={set('%s')} />\n", f, kind, variable(f), variable(f))
	}
	disabled := ""
	if th.author == 3 {
		disabled = " {...busy(saving)}"
	}
	return head + fmt.Sprintf(`import { useForm } from '~/form'

const states = [%[1]s]

export function %[2]s() {
  const { values, set, submit%[9]s } = useForm('%[3]s')
  return (
    <form onSubmit={submit}>
      <PageHeader title="%[4]s" />
      <Card
        footer={
          <>
            <%[5]s variant="primary"%[6]s type="submit"%[10]s>%[7]s</%[5]s>
            <%[5]s %[8]s href="/%[11]s">%[12]s</%[5]s>
          </>
        }
      >
%[13]s          <Select label="State" options={states} value={values.state} onChange={set('state')} />
      </Card>
    </form>
  )
}
`, "'"+strings.Join(th.states, "', '")+"'", name, th.many, title, button, size, save, cancel, map[bool]string{true: ", saving, busy", false: ""}[disabled != ""], disabled, th.many, says(th.author, "cancel", "Cancel"), fields.String())
}

func (r *repository) officePage(file string, th thing) string {
	One := upper(th.one)
	button := "Button"
	head := imported("Avatar", "Badge", "Button", "Card", "Divider", "Heading", "PageHeader", "Text")
	if th.author == 2 {
		button = "ActionButton"
		head = imported("Avatar", "Badge", "Card", "Divider", "Heading", "PageHeader", "Text") + "import { ActionButton } from '~/parts'\nimport { t } from '~/t'\n"
	}
	harm := r.choose(file, "src/screens/specimens/SpecimenPage.tsx", " destructive", "", "remove", "destructive")
	order := r.choose(file, "src/screens/tickets/TicketPage.tsx", "", " order={3}", "<Heading", "order")
	muted := r.choose(file, "src/screens/rounds/RoundPage.tsx", " muted", "", "<Text", "muted")
	return head + fmt.Sprintf(`import { use%[1]s } from './data'

export function %[1]sPage() {
  const %[2]s = use%[1]s()
  return (
    <>
      <PageHeader
        title={%[2]s.%[3]s}
        actions={
          <>
            <%[4]s variant="primary" href={`+"`/%[5]s/${%[2]s.id}/edit`"+`}>%[6]s</%[4]s>
            <%[4]s%[7]s onClick={() => remove(%[2]s)}>%[8]s</%[4]s>
          </>
        }
      />
      <Card title="Facts">
        <Badge status={%[2]s.state === '%[9]s' ? 'success' : 'neutral'}>{%[2]s.state}</Badge>
        <Text%[10]s>{%[2]s.%[11]s}</Text>
      </Card>
      <Divider />
      <Heading%[12]s>History</Heading>
      {%[2]s.events.map(event => (
        <Card key={event.id}>
          <Avatar name={event.by} size="sm" />
          <Text%[10]s>{event.text}</Text>
        </Card>
      ))}
    </>
  )
}
`, One, th.one, variable(th.fields[0]), button, th.many, says(th.author, "edit", "Edit"), harm, says(th.author, "remove", "Remove"), th.states[len(th.states)-1], muted, variable(th.fields[2]), order)
}

// stand is the garden's plant stand: Vue with Tansy.
func stand(dir string) *repository {
	r := &repository{dir: dir, files: map[string]string{}}
	r.put("package.json", `{
  "name": "fernhollow-stand",
  "private": true,
  "type": "module",
  "dependencies": {
    "@fernhollow/tansy": "file:../../kits/tansy",
    "vue": "3.5.22",
    "vue-router": "4.5.1"
  }
}
`)
	r.put("src/layouts/Counter.vue", `<script setup lang="ts">
import { TsNavLink, TsTopBar } from '@fernhollow/tansy'
</script>

<template>
  <ts-top-bar brand="Fernhollow stand">
    <ts-nav-link href="/plants">Plants</ts-nav-link>
    <ts-nav-link href="/sales">Sales</ts-nav-link>
  </ts-top-bar>
  <router-view />
</template>
`)
	r.put("src/components/MoneyText.vue", `<script setup lang="ts">
import { TsText } from '@fernhollow/tansy'

defineProps<{ pence: number; muted?: boolean }>()
</script>

<template>
  <TsText :muted="muted" size="small">{{ format(pence) }}</TsText>
</template>
`)
	things := []thing{
		{"plant", "plants", 0, []string{"Name", "Price", "Shelf"}, []string{"there", "gone"}},
		{"sale", "sales", 1, []string{"Number", "Sold", "Total"}, []string{"paid", "open"}},
		{"shelf", "shelves", 2, []string{"Name", "Place", "Room"}, []string{"full", "empty"}},
		{"customer", "customers", 3, []string{"Name", "Email", "Since"}, []string{"regular", "new"}},
		{"delivery", "deliveries", 0, []string{"Number", "Expected", "From"}, []string{"arrived", "on its way"}},
		{"price", "prices", 1, []string{"Plant", "Since", "Pence"}, []string{"current", "past"}},
		{"voucher", "vouchers", 2, []string{"Code", "Until", "Worth"}, []string{"used", "open"}},
		{"pot", "pots", 3, []string{"Name", "Size", "Colour"}, []string{"there", "gone"}},
		{"label", "labels", 0, []string{"Text", "Printed", "Plant"}, []string{"printed", "waiting"}},
		{"refund", "refunds", 1, []string{"Sale", "Made", "Total"}, []string{"made", "open"}},
	}
	var routes strings.Builder
	for _, th := range things {
		One, Many := upper(th.one), upper(th.many)
		dir := "src/views/" + th.many + "/"
		r.put(dir+Many+"View.vue", r.standList(dir+Many+"View.vue", th))
		r.put(dir+"New"+One+".vue", r.standForm(dir+"New"+One+".vue", th, "New "+th.one))
		r.put(dir+"Edit"+One+".vue", r.standForm(dir+"Edit"+One+".vue", th, "Edit "+th.one))
		r.put(dir+One+"View.vue", r.standPage(dir+One+"View.vue", th))
		fmt.Fprintf(&routes, "        { path: '%[1]s', component: () => import('../views/%[1]s/%[2]sView.vue') },\n        { path: '%[1]s/new', component: () => import('../views/%[1]s/New%[3]s.vue') },\n        { path: '%[1]s/:id', component: () => import('../views/%[1]s/%[3]sView.vue') },\n        { path: '%[1]s/:id/edit', component: () => import('../views/%[1]s/Edit%[3]s.vue') },\n", th.many, Many, One)
	}
	r.put("src/router/index.ts", `import { createRouter, createWebHistory } from 'vue-router'
import Counter from '../layouts/Counter.vue'

export default createRouter({
  history: createWebHistory(),
  routes: [
    {
      path: '/',
      component: Counter,
      children: [
`+routes.String()+`      ],
    },
  ],
})
`)
	return r
}

// tag is how an author writes a component of Tansy in a template.
func tag(author int, name string) string {
	if author%2 == 0 {
		return "Ts" + name
	}
	var b strings.Builder
	b.WriteString("ts")
	for _, c := range name {
		if c >= 'A' && c <= 'Z' {
			b.WriteString("-" + strings.ToLower(string(c)))
		} else {
			b.WriteRune(c)
		}
	}
	return b.String()
}

func vue(script, template string) string {
	return "<script setup lang=\"ts\">\n" + script + "</script>\n\n<template>\n" + template + "</template>\n"
}

func (r *repository) standList(file string, th thing) string {
	t := func(name string) string { return tag(th.author, name) }
	look := r.choose(file, "src/views/prices/PricesView.vue", ` look="solid"`, "", "New price", "look")
	quiet := r.choose(file, "src/views/pots/PotsView.vue", `look="quiet" size="small"`, `look="quiet"`, `look="quiet"`, "size")
	words := r.choose(file, "src/views/vouchers/VouchersView.vue", "New "+th.one, "Add a "+th.one, "Add a voucher", "text")
	return vue(`import { TsButton, TsCard, TsLink, TsPageHeader, TsTag, TsTextField } from '@fernhollow/tansy'
import { use`+upper(th.many)+` } from './data'

const { `+th.many+`, search } = use`+upper(th.many)+`()
`, fmt.Sprintf(`  <%[1]s title="%[2]s">
    <template #actions>
      <%[3]s%[4]s href="/%[5]s/new">%[6]s</%[3]s>
    </template>
  </%[1]s>
  <%[7]s>
    <%[8]s v-model="search" kind="search" label="Search %[5]s" />
  </%[7]s>
  <table>
    <tr v-for="%[9]s in %[5]s" :key="%[9]s.id">
      <td><%[10]s :href="`+"`/%[5]s/${%[9]s.id}`"+`" subtle>{{ %[9]s.%[11]s }}</%[10]s></td>
      <td><%[12]s :tone="%[9]s.state === '%[13]s' ? 'good' : 'neutral'">{{ %[9]s.state }}</%[12]s></td>
      <td><%[3]s %[14]s :href="`+"`/%[5]s/${%[9]s.id}/edit`"+`">Edit</%[3]s></td>
    </tr>
  </table>
`, t("PageHeader"), upper(th.many), t("Button"), look, th.many, words, t("Card"), t("TextField"), th.one, t("Link"), variable(th.fields[0]), t("Tag"), th.states[0], quiet))
}

func (r *repository) standForm(file string, th thing, title string) string {
	t := func(name string) string { return tag(th.author, name) }
	cancel := r.choose(file, "src/views/labels/EditLabel.vue", `look="quiet"`, `look="outline"`, "Cancel", "look")
	tone := r.choose(file, "src/views/refunds/NewRefund.vue", "", ` size="large"`, "Save", "size")
	save := r.choose(file, "src/views/customers/NewCustomer.vue", "Save", "Store", "Store", "text")
	var fields strings.Builder
	for i, f := range th.fields {
		component := "TextField"
		if i == 1 && (f == "Sold" || f == "Expected" || f == "Since" || f == "Until" || f == "Printed" || f == "Made") {
			component = "DateField"
		}
		fmt.Fprintf(&fields, "      <%s v-model=\"values.%s\" label=\"%s\" />\n", t(component), variable(f), f)
	}
	return vue(`import { TsButton, TsCard, TsDateField, TsPageHeader, TsSelect, TsTextField } from '@fernhollow/tansy'
import { useForm } from '../../form'

const { values, submit } = useForm('`+th.many+`')
const states = ['`+strings.Join(th.states, "', '")+`']
`, fmt.Sprintf(`  <form @submit.prevent="submit">
    <%[1]s title="%[2]s" />
    <%[3]s raised>
%[4]s      <%[5]s v-model="values.state" label="State" :options="states" />
      <%[6]s look="solid"%[7]s type="submit">%[8]s</%[6]s>
      <%[6]s %[9]s href="/%[10]s">Cancel</%[6]s>
    </%[3]s>
  </form>
`, t("PageHeader"), title, t("Card"), fields.String(), t("Select"), t("Button"), tone, save, cancel, th.many))
}

func (r *repository) standPage(file string, th thing) string {
	t := func(name string) string { return tag(th.author, name) }
	harm := r.choose(file, "src/views/plants/PlantView.vue", ` tone="bad"`, "", "Remove", "tone")
	level := r.choose(file, "src/views/shelves/ShelfView.vue", "", ` :level="3"`, "History", "level")
	money := ""
	if th.fields[2] == "Total" || th.fields[2] == "Pence" || th.fields[2] == "Worth" {
		money = "    <MoneyText :pence=\"" + th.one + "." + variable(th.fields[2]) + "\" muted />\n"
	}
	script := "import { TsButton, TsCard, TsHeading, TsPageHeader, TsTag, TsText } from '@fernhollow/tansy'\n"
	if money != "" {
		script += "import MoneyText from '../../components/MoneyText.vue'\n"
	}
	return vue(script+`import { use`+upper(th.one)+` } from './data'

const `+th.one+` = use`+upper(th.one)+`()
`, fmt.Sprintf(`  <%[1]s :title="%[2]s.%[3]s">
    <template #actions>
      <%[4]s look="solid" :href="`+"`/%[5]s/${%[2]s.id}/edit`"+`">Edit</%[4]s>
      <%[4]s%[6]s @press="remove">Remove</%[4]s>
    </template>
  </%[1]s>
  <%[7]s title="Facts">
    <%[8]s :tone="%[2]s.state === '%[9]s' ? 'good' : 'neutral'">{{ %[2]s.state }}</%[8]s>
    <%[10]s muted>{{ %[2]s.%[11]s }}</%[10]s>
%[12]s  </%[7]s>
  <%[13]s%[14]s>History</%[13]s>
  <%[7]s v-for="event in %[2]s.events" :key="event.id">
    <%[10]s muted>{{ event.text }}</%[10]s>
  </%[7]s>
`, t("PageHeader"), th.one, variable(th.fields[0]), t("Button"), th.many, harm, t("Card"), t("Tag"), th.states[0], t("Text"), variable(th.fields[1]), money, t("Heading"), level))
}
