import { provideZonelessChangeDetection } from '@angular/core'
import { bootstrapApplication } from '@angular/platform-browser'
import { provideRouter } from '@angular/router'
import { AppComponent } from './app.component'
import { missing, routes, setup } from './{{.Inside}}'

setup()
bootstrapApplication(AppComponent, {
  providers: [provideZonelessChangeDetection(), provideRouter([...routes, missing])],
}).catch((error: unknown) => console.error(error))
