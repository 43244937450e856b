package repo_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ubiquant/core/live"
	"ubiquant/core/screen"
	"ubiquant/core/source"
)

// What a module of Angular's that is loaded late gives stands below the route that loads it, however many
// modules it goes through, and however they hand their routes to the router.
func TestRoutesOfModulesStandBelowWhatLoadsThem(t *testing.T) {
	page := func(name string) string {
		return "import { Component } from '@angular/core'\n@Component({ selector: 'app-" + name + "', template: '<main><h1>" + name + "</h1></main>' })\nexport class " + name + "Component {}\n"
	}
	module := func(imports, list string) string {
		return imports + "@NgModule({ imports: [" + list + "] })\nexport class "
	}
	const angular = "import { NgModule } from '@angular/core'\nimport { RouterModule } from '@angular/router'\nimport { SharedModule } from '@app/shared.module'\n"
	r := read(t, put(t, texts(map[string]string{
		"package.json":                          `{"name":"garden","dependencies":{"@angular/core":"14"}}`,
		"tsconfig.json":                         `{"compilerOptions":{"baseUrl":"./","paths":{"@app/*":["src/app/*"]}}}`,
		"src/app/shared.module.ts":              module("import { NgModule } from '@angular/core'\nimport { RouterModule } from '@angular/router'\n", "RouterModule") + "SharedModule {}",
		"src/app/app-routing.ts":                module(angular, "RouterModule.forRoot([{ path: '', loadChildren: () => import('./start/start.module').then(m => m.StartModule) }, { path: 'work', data: { at: 1 }, loadChildren: () => import('./work/work.module').then(m => m.WorkModule) }, { path: 'old', loadChildren: './old/old.module#OldModule' }])") + "AppRoutingModule {}",
		"src/app/start/start.module.ts":         module(angular+"import { StartRoutingModule } from './start-routing.module'\n", "SharedModule, StartRoutingModule") + "StartModule {}",
		"src/app/start/start-routing.module.ts": module(angular+"import { StartComponent } from './start'\n", "RouterModule.forChild([{ path: '', component: StartComponent }])") + "StartRoutingModule {}",
		"src/app/start/start.ts":                page("Start"),
		"src/app/work/work.module.ts":           module(angular+"import { WorkRoutingModule } from './work-routing.module'\n", "SharedModule, WorkRoutingModule") + "WorkModule {}",
		"src/app/work/work-routing.module.ts":   module(angular, "RouterModule.forChild([{ path: 'beds', loadChildren: () => import('./beds/beds.module').then(m => m.BedsModule) }])") + "WorkRoutingModule {}",
		"src/app/work/beds/beds.module.ts":      module(angular+"import { bedRoutes } from './beds.routes'\n", "RouterModule.forChild(bedRoutes)") + "BedsModule {}",
		"src/app/work/beds/beds.routes.ts":      "import { BedsComponent } from './beds'\nimport { BedComponent } from './bed'\nexport const bedRoutes = [{ path: '', component: BedsComponent }, { path: ':id', component: BedComponent }]\n",
		"src/app/work/beds/beds.ts":             page("Beds"),
		"src/app/work/beds/bed.ts":              page("Bed"),
		"src/app/old/old.module.ts":             module(angular+"import { OldComponent } from './old'\n", "RouterModule.forChild([{ path: 'tools', component: OldComponent }])") + "OldModule {}",
		"src/app/old/old.ts":                    page("Old"),
	})), nil)
	routes := map[string]string{}
	for _, d := range r.W.Docs {
		routes[d.Title] = d.Route
	}
	assert.Equal(t, map[string]string{"Start": "/", "Beds": "/work/beds", "Bed": "/work/beds/:id", "Old": "/old/tools"}, routes)
	require.Empty(t, r.Report.Left)
}

// Of several attributes a component of Angular is known by, the one that is written is a choice as any
// other: it is compared, and brought into line as an edit of that attribute alone. A setting is known by its
// very name, and written as its name alone it is empty, which is what the component is known by.
func TestTheAttributeThatAComponentIsKnownByIsAChoice(t *testing.T) {
	page := func(n int, look string) string {
		return fmt.Sprintf("import { Component } from '@angular/core'\nimport { AcButton } from '@acme/ng'\n@Component({ selector: 'app-p%[1]d', imports: [AcButton], template: `<main><button %[2]s tone=\"calm\">Save %[1]d</button><a acLink>Leave</a></main>` })\nexport class Page%[1]d {}\n", n, look)
	}
	files := map[string]string{
		"package.json":                       `{"name":"garden","dependencies":{"@acme/ng":"1","@angular/core":"21"}}`,
		"node_modules/@acme/ng/package.json": `{"name":"@acme/ng","version":"1.0.0","types":"index.d.ts","module":"index.js","peerDependencies":{"@angular/core":"21"}}`,
		"node_modules/@acme/ng/index.js":     "export class AcButton {}",
		"node_modules/@acme/ng/index.d.ts": `import * as i0 from '@angular/core'
export declare class AcButton { acButton: 'text' | 'full'; tone: 'calm' | 'loud'; static ɵcmp: i0.ɵɵComponentDeclaration<AcButton, 'button[acButton], button[ac-flat-button], button[ac-raised-button], button[ac-button]', never, { 'acButton': 'acButton'; 'tone': 'tone' }, {}, never, ['*'], true, never> }
export declare class AcLink { acLink: 'text' | 'full'; static ɵcmp: i0.ɵɵComponentDeclaration<AcLink, 'a[acLink]', never, { 'acLink': 'acLink' }, {}, never, ['*'], true, never> }
`,
		"node_modules/@angular/core/package.json": `{"name":"@angular/core","version":"21.0.0","types":"index.d.ts"}`,
		"node_modules/@angular/core/index.d.ts":   "export interface ɵɵComponentDeclaration<A, B, C, D, E, F, G, H, I> {}\n",
	}
	var imports, routes strings.Builder
	for n := range 16 {
		look := "ac-flat-button"
		switch n {
		case 7:
			look = "ac-raised-button"
		case 15:
			look = `acButton="full"`
		}
		files[fmt.Sprintf("src/app/p%d.ts", n)] = page(n, look)
		fmt.Fprintf(&imports, "import { Page%[1]d } from './p%[1]d'\n", n)
		fmt.Fprintf(&routes, "{ path: 'p%[1]d', component: Page%[1]d }, ", n)
	}
	files["src/app/app.routes.ts"] = imports.String() + "export const routes = [" + routes.String() + "]\n"
	dir := put(t, texts(files))
	r := read(t, dir, nil)
	assert.Equal(t, "html-main\n  ng-ac-button tone=calm variant=ac-raised-button | Save 7\n  ng-ac-link | Leave\n", told(r, "screen:page7"))
	assert.Equal(t, "html-main\n  ng-ac-button acButton=full tone=calm | Save 15\n  ng-ac-link | Leave\n", told(r, "screen:page15"))
	assert.Empty(t, r.Report.Strange)
	l := r.Judge(day)
	open, _ := l.Findings()
	for _, f := range open {
		assert.NotEqual(t, "value-outside", f.Rule, f.Message)
	}
	var repairs []source.Repair
	for _, s := range l.Strays() {
		if s.Prop == "variant" && s.Doc == "screen:page7" {
			repairs = append(repairs, source.Repair{Key: live.StrayKey(s), Doc: s.Doc, Edits: s.Fix})
		}
	}
	require.Len(t, repairs, 1, "one of sixteen strays")
	patched, unmade := r.Patch(repairs)
	require.Empty(t, unmade)
	require.Len(t, patched, 1)
	assert.Equal(t, page(7, "ac-flat-button"), string(patched[0].After))

	// What it is known by cannot be taken away, and what bears none of them is not given one.
	el := func(doc string) string {
		d, _ := r.W.Doc(doc)
		return d.Root.Children[0].ID
	}
	set := screen.Edit{Op: screen.Set, Prop: "variant", Value: screen.Lit("ac-button")}
	for doc, edit := range map[string]screen.Edit{"screen:page3": {Op: screen.Unset, Prop: "variant"}, "screen:page15": set} {
		edit.ID = el(doc)
		_, unmade := r.Patch([]source.Repair{{Key: "k", Doc: doc, Edits: []screen.Edit{edit}}})
		require.Len(t, unmade, 1, doc)
		assert.Contains(t, unmade[0].Why, "has to bear it")
	}
}

// What stands in a template of Angular right in a component of the kit stands in a place of that name; what
// code shows by the template's name elsewhere, and what stands in other elements, is as if there were none.
func TestTemplatesOfAngularArePlaces(t *testing.T) {
	r := read(t, put(t, texts(map[string]string{
		"package.json":                       `{"name":"garden","dependencies":{"@acme/ng":"1","@angular/core":"21"}}`,
		"node_modules/@acme/ng/package.json": `{"name":"@acme/ng","version":"1.0.0","types":"index.d.ts","module":"index.js","peerDependencies":{"@angular/core":"21"}}`,
		"node_modules/@acme/ng/index.js":     "export class AcTable {}",
		"node_modules/@acme/ng/index.d.ts": `import * as i0 from '@angular/core'
export declare class AcTable { static ɵcmp: i0.ɵɵComponentDeclaration<AcTable, 'ac-table', never, {}, {}, never, ['*'], true, never> }
export declare class AcTemplate { static ɵdir: i0.ɵɵDirectiveDeclaration<AcTemplate, '[acTemplate]', never, { 'acTemplate': 'acTemplate' }, {}, never, never, true, never> }
`,
		"node_modules/@angular/core/package.json": `{"name":"@angular/core","version":"21.0.0","types":"index.d.ts"}`,
		"node_modules/@angular/core/index.d.ts":   "export interface ɵɵComponentDeclaration<A, B, C, D, E, F, G, H, I> {}\nexport interface ɵɵDirectiveDeclaration<A, B, C, D, E, F, G, H, I> {}\n",
		"src/app/app.routes.ts":                   "import { Beds } from './beds'\nexport const routes = [{ path: 'beds', component: Beds }]\n",
		"src/app/beds.ts": `import { Component } from '@angular/core'
import { AcTable, AcTemplate } from '@acme/ng'
@Component({ selector: 'app-beds', imports: [AcTable, AcTemplate], template: ` + "`<main><ac-table><ng-template acTemplate=\"header\"><tr><th>Bed</th></tr></ng-template><ng-template #header let-sum><p>All</p></ng-template><ng-template acCaption><i>Beds</i></ng-template><b *ngIf=\"dry; else wet\">Dry</b><ng-template #wet><b>Wet</b></ng-template></ac-table><ac-table><ac-table /></ac-table><div><ng-template #aside><u>Late</u></ng-template></div><header>Beds <a routerLink=\"/beds/new\">New</a><a routerLink=\"more\">More</a></header><ac-table><app-part><ng-template #cells><s>Dry</s></ng-template></app-part></ac-table></main>`" + ` })
export class Beds {}
@Component({ selector: 'app-part', imports: [AcTable], template: '<ac-table><ng-content /></ac-table>' })
export class Part {}`,
	})), nil)
	d, ok := r.W.Doc("screen:beds")
	require.True(t, ok)
	table := d.Root.Children[0]
	slots := []string{}
	for _, c := range table.Children {
		slots = append(slots, strings.TrimPrefix(c.Type, "html-")+" in "+c.Slot)
	}
	assert.Equal(t, []string{"b in ", "b in ", "p in #header", "i in ng-template[acCaption]", "tr in ng-template[acTemplate=header]"}, slots)
	assert.Empty(t, d.Root.Children[2].Children[0].Slot)
	d.Root.Walk(func(e, _ *screen.Element) bool {
		assert.False(t, e.Type == "html-s" && e.Slot != "", "it stands in what the team has around it")
		return true
	})
	links := d.Root.Children[3].Children
	href, _ := links[0].Prop("href")
	assert.Equal(t, "/beds/new", href.Text, "the router's own way to say where a link leads")
	_, has := links[1].Prop("href")
	assert.False(t, has, "what leads on from here is not known")
	def, _ := r.Kit.Component(table.Type)
	for _, c := range table.Children {
		_, ok := def.Slot(c.Slot)
		assert.True(t, ok, "the component has the place %q", c.Slot)
	}
}
