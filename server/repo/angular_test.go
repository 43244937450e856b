package repo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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
