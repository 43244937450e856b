import { html, css, nothing } from 'lit'
import { property, state } from 'lit/decorators.js'
import { SorrelElement, define, safeHref, shared, along } from '../base.js'
import './icon.js'

/**
 * The bar on top of an application: brand, places, and a group at the end. Collapses to a menu where narrow.
 * @tag sorrel-navbar
 * @slot brand - The name or logo.
 * @slot - Navigation items, and menus that drop down.
 * @slot end - Actions and the person's avatar.
 */
@define('sorrel-navbar')
export class SorrelNavbar extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        container-type: inline-size;
        background: var(--sorrel-color-bar);
        color: var(--sorrel-color-on-bar);
        --sorrel-color-ink: var(--sorrel-color-on-bar);
        --sorrel-color-accent-ink: var(--sorrel-color-on-bar);
        --sorrel-color-accent-soft: color-mix(
          in oklab,
          var(--sorrel-color-on-bar) 20%,
          transparent
        );
      }
      :host([position='fixed']) {
        position: sticky;
        top: 0;
        z-index: 5;
      }
      .bar {
        display: flex;
        align-items: center;
        gap: var(--sorrel-space-4);
        min-height: 56px;
        padding: var(--sorrel-space-2) var(--sorrel-space-5);
      }
      .brand {
        font-weight: var(--sorrel-weight-heavy);
        font-size: var(--sorrel-text-l);
        white-space: nowrap;
      }
      nav {
        display: flex;
        gap: var(--sorrel-space-1);
        flex: 1;
        min-width: 0;
      }
      .end {
        display: flex;
        align-items: center;
        gap: var(--sorrel-space-2);
        margin-inline-start: auto;
      }
      .toggle {
        display: none;
        background: none;
        border: 1px solid currentColor;
        border-radius: var(--sorrel-radius-control);
        color: inherit;
        width: 40px;
        height: 40px;
        cursor: pointer;
        margin-inline-start: auto;
        align-items: center;
        justify-content: center;
      }
      :host([data-narrow]) .toggle {
        display: inline-flex;
      }
      :host([data-narrow]) .bar {
        flex-wrap: wrap;
        padding: var(--sorrel-space-2) var(--sorrel-space-4);
      }
      :host([data-narrow]) nav {
        display: none;
        order: 3;
        flex-basis: 100%;
        flex-direction: column;
      }
      :host([data-narrow]) nav.open {
        display: flex;
      }
      :host([data-narrow]) .end {
        margin-inline-start: 0;
      }
    `,
  ]
  /** Stays on top while the page scrolls, or goes with it. */
  @property({ reflect: true }) position: 'static' | 'fixed' = 'static'
  /** What the navigation is called for screen readers. */
  @property() label = 'Main'
  @state() private open = false
  private fitting = new ResizeObserver(() => this.fit())
  connectedCallback() {
    super.connectedCallback()
    this.fitting.observe(this)
  }
  disconnectedCallback() {
    super.disconnectedCallback()
    this.fitting.disconnect()
  }
  /** It becomes a menu where its places would not fit beside each other, however many they are. */
  private fit() {
    const bar = this.renderRoot.querySelector('.bar'),
      nav = this.renderRoot.querySelector('nav')
    if (!bar || !nav) return
    this.removeAttribute('data-narrow')
    const narrow =
      nav.scrollWidth > nav.clientWidth + 1 ||
      bar.scrollWidth > bar.clientWidth + 1 ||
      this.clientWidth < 480
    this.toggleAttribute('data-narrow', narrow)
  }
  firstUpdated() {
    this.fit()
  }
  private key(e: KeyboardEvent) {
    if (e.key === 'Escape' && this.open) {
      this.open = false
      this.renderRoot.querySelector<HTMLElement>('.toggle')?.focus()
    }
  }
  render() {
    return html`<div class="bar" @keydown=${this.key}>
      <div class="brand"><slot name="brand"></slot></div>
      <nav id="places" aria-label=${this.label} class=${this.open ? 'open' : ''}>
        <slot @slotchange=${this.fit}></slot>
      </nav>
      <button
        class="toggle"
        aria-label="Menu"
        aria-expanded=${this.open}
        aria-controls="places"
        @click=${() => {
          this.open = !this.open
        }}
      >
        <sorrel-icon name="menu"></sorrel-icon>
      </button>
      <div class="end"><slot name="end"></slot></div>
    </div>`
  }
}

/**
 * One place in a navbar or a side navigation.
 * @tag sorrel-nav-item
 * @slot - The place's name.
 */
@define('sorrel-nav-item')
export class SorrelNavItem extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        color: inherit;
      }
      a {
        display: flex;
        align-items: center;
        gap: var(--sorrel-space-2);
        min-height: var(--sorrel-size-item);
        padding: 0 var(--sorrel-space-3);
        color: inherit;
        text-decoration: none;
        border-radius: var(--sorrel-radius-control);
        white-space: nowrap;
      }
      a:hover {
        background: color-mix(in oklab, currentColor 12%, transparent);
      }
      a[aria-current] {
        font-weight: var(--sorrel-weight-heavy);
        background: color-mix(in oklab, currentColor 16%, transparent);
      }
      .count {
        margin-inline-start: auto;
        font-size: var(--sorrel-text-s);
        font-variant-numeric: tabular-nums;
        opacity: 0.8;
      }
    `,
  ]
  /** The route it leads to. @required */
  @property() to = ''
  /** An icon before the name. */
  @property() icon = ''
  /** The place that is shown now. */
  @property({ type: Boolean, reflect: true }) active = false
  /** How many things wait there; zero shows nothing. */
  @property({ type: Number }) count = 0
  connectedCallback() {
    super.connectedCallback()
    this.setAttribute('role', 'listitem')
  }
  private go(e: Event) {
    if (!this.tell('sorrel-go', { to: safeHref(this.to) })) e.preventDefault()
  }
  render() {
    return html`<a
      href=${safeHref(this.to)}
      aria-current=${this.active ? 'page' : nothing}
      @click=${this.go}
    >
      ${this.icon ? html`<sorrel-icon name=${this.icon} size="s"></sorrel-icon>` : nothing}<slot
      ></slot> ${this.count > 0 ? html`<span class="count">${this.count}</span>` : nothing}</a
    >`
  }
}

/**
 * Places that belong together in a side navigation, under a name that opens and closes them.
 * @tag sorrel-nav-group
 * @slot - Navigation items, and groups within the group.
 * @fires sorrel-toggle - It was opened or closed; detail.open says which.
 */
@define('sorrel-nav-group')
export class SorrelNavGroup extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        color: inherit;
      }
      button {
        font: inherit;
        color: inherit;
        background: none;
        border: 0;
        display: flex;
        align-items: center;
        gap: var(--sorrel-space-2);
        width: 100%;
        min-height: var(--sorrel-size-item);
        padding: 0 var(--sorrel-space-3);
        border-radius: var(--sorrel-radius-control);
        cursor: pointer;
        text-align: start;
      }
      button:hover {
        background: color-mix(in oklab, currentColor 12%, transparent);
      }
      .sign {
        margin-inline-start: auto;
      }
      .inside {
        padding-inline-start: var(--sorrel-space-4);
      }
      .inside[hidden] {
        display: none;
      }
    `,
  ]
  /** The name of the group. @required */
  @property() label = ''
  /** An icon before the name. */
  @property() icon = ''
  /** Its places are shown. */
  @property({ type: Boolean, reflect: true }) open = false
  connectedCallback() {
    super.connectedCallback()
    this.setAttribute('role', 'listitem')
  }
  private toggle() {
    this.open = !this.open
    this.tell('sorrel-toggle', { open: this.open })
  }
  render() {
    return html`<button
        type="button"
        aria-expanded=${this.open}
        aria-controls="places"
        @click=${this.toggle}
      >
        ${this.icon ? html`<sorrel-icon name=${this.icon} size="s"></sorrel-icon>` : nothing}${this.label}<span
          class="sign"
          aria-hidden="true"
          >${this.open ? '−' : '+'}</span
        >
      </button>
      <div id="places" class="inside" role="list" aria-label=${this.label} ?hidden=${!this.open}>
        <slot></slot>
      </div>`
  }
}

/**
 * Places one under the other, at the side of an application.
 * @tag sorrel-side-nav
 * @slot - Navigation items.
 * @slot foot - What stands at the end.
 */
@define('sorrel-side-nav')
export class SorrelSideNav extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        background: var(--sorrel-color-surface);
        border-inline-end: 1px solid var(--sorrel-color-line);
        width: 220px;
        min-height: 100%;
        padding: var(--sorrel-space-4) var(--sorrel-space-2);
      }
      :host([width='slim']) {
        width: 168px;
      }
      nav {
        display: flex;
        flex-direction: column;
        gap: 2px;
      }
      .foot {
        margin-top: var(--sorrel-space-5);
        padding: 0 var(--sorrel-space-3);
      }
    `,
  ]
  /** What the navigation is called for screen readers. */
  @property() label = 'Sections'
  /** How much room it takes. */
  @property({ reflect: true }) width: 'slim' | 'wide' = 'wide'
  render() {
    return html`<nav aria-label=${this.label}><slot></slot></nav>
      <div class="foot"><slot name="foot"></slot></div>`
  }
}

/**
 * The way from the start of the application to this screen.
 * @tag sorrel-breadcrumbs
 * @slot - Crumbs in order.
 */
@define('sorrel-breadcrumbs')
export class SorrelBreadcrumbs extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
        font-size: var(--sorrel-text-s);
        color: var(--sorrel-color-ink-2);
      }
      .row {
        display: flex;
        flex-wrap: wrap;
        gap: var(--sorrel-space-2);
      }
    `,
  ]
  render() {
    return html`<nav aria-label="Breadcrumbs">
      <div class="row" role="list"><slot></slot></div>
    </nav>`
  }
}

/**
 * One step of the breadcrumbs; the last one is the screen itself and has no address.
 * @tag sorrel-crumb
 * @slot - The step's name.
 */
@define('sorrel-crumb')
export class SorrelCrumb extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: inline-flex;
        gap: var(--sorrel-space-2);
        color: inherit;
      }
      :host(:not(:last-of-type))::after {
        content: '›';
      }
      a {
        color: inherit;
      }
    `,
  ]
  /** The route; empty for the screen itself. */
  @property() to = ''
  connectedCallback() {
    super.connectedCallback()
    this.setAttribute('role', 'listitem')
  }
  private go(e: Event) {
    if (!this.tell('sorrel-go', { to: safeHref(this.to) })) e.preventDefault()
  }
  render() {
    return this.to
      ? html`<a href=${safeHref(this.to)} @click=${this.go}><slot></slot></a>`
      : html`<span aria-current="page"><slot></slot></span>`
  }
}

/**
 * Title of a screen with what may be done on it.
 * @tag sorrel-page-header
 * @slot - A sentence under the title.
 * @slot actions - Buttons for the whole screen.
 */
@define('sorrel-page-header')
export class SorrelPageHeader extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: flex;
        flex-wrap: wrap;
        gap: var(--sorrel-space-3);
        align-items: flex-end;
        justify-content: space-between;
      }
      h1 {
        margin: 0;
        font-family: var(--sorrel-font-heading);
        font-size: var(--sorrel-text-xxl);
        line-height: 1.15;
      }
      :host([size='s']) h1 {
        font-size: var(--sorrel-text-xl);
      }
      .sub {
        color: var(--sorrel-color-ink-2);
        margin-top: var(--sorrel-space-1);
      }
      .actions {
        display: flex;
        gap: var(--sorrel-space-2);
        flex-wrap: wrap;
      }
    `,
  ]
  /** The screen's title. @required */
  @property() heading = ''
  /** Size of the title. */
  @property({ reflect: true }) size: 's' | 'm' = 'm'
  render() {
    return html`<div>
        <h1>${this.heading}</h1>
        <div class="sub"><slot></slot></div>
      </div>
      <div class="actions"><slot name="actions"></slot></div>`
  }
}

/**
 * Walks the pages of a list.
 * @tag sorrel-pager
 * @fires sorrel-page - Another page was chosen; detail.page counts from 1.
 */
@define('sorrel-pager')
export class SorrelPager extends SorrelElement {
  static styles = [
    shared,
    css`
      nav {
        display: flex;
        align-items: center;
        gap: var(--sorrel-space-2);
        font-variant-numeric: tabular-nums;
      }
      :host([align='end']) nav {
        justify-content: flex-end;
      }
      :host([align='center']) nav {
        justify-content: center;
      }
      button {
        font: inherit;
        min-height: var(--sorrel-size-item);
        padding: 0 var(--sorrel-space-3);
        background: var(--sorrel-color-surface);
        color: inherit;
        border: 1px solid var(--sorrel-color-line);
        border-radius: var(--sorrel-radius-control);
        cursor: pointer;
      }
      button:disabled {
        opacity: 0.4;
        cursor: not-allowed;
      }
    `,
  ]
  /** The page shown, from 1. */
  @property({ type: Number, reflect: true }) page = 1
  /** How many pages there are. */
  @property({ type: Number }) pages = 1
  /** Where the controls stand. */
  @property({ reflect: true }) align: 'start' | 'center' | 'end' = 'start'
  private go(page: number) {
    this.page = page
    this.tell('sorrel-page', { page })
  }
  render() {
    // Where fewer pages are left than there were, the last one shows.
    const page = Math.min(this.page, Math.max(1, this.pages))
    return html`<nav aria-label="Pages">
      <button ?disabled=${page <= 1} @click=${() => this.go(page - 1)}>Back</button>
      <span aria-live="polite">Page ${page} of ${this.pages}</span>
      <button ?disabled=${page >= this.pages} @click=${() => this.go(page + 1)}>Next</button>
    </nav>`
  }
}

/**
 * Views of one thing, one shown at a time.
 * @tag sorrel-tabs
 * @slot - Tab panels.
 * @fires sorrel-tab - Another tab was chosen; detail.index counts from 0.
 * @fires sorrel-go - A tab that leads to a route was pressed; prevented, it is not followed.
 */
@define('sorrel-tabs')
export class SorrelTabs extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
      [role='tablist'],
      nav {
        display: flex;
        gap: var(--sorrel-space-4);
        border-bottom: 1px solid var(--sorrel-color-line);
        margin-bottom: var(--sorrel-space-4);
      }
      button,
      nav > * {
        font: inherit;
        background: none;
        border: 0;
        border-bottom: 3px solid transparent;
        padding: var(--sorrel-space-2) 0;
        color: var(--sorrel-color-ink-2);
        text-decoration: none;
        cursor: pointer;
      }
      button[aria-selected='true'],
      [aria-current] {
        color: var(--sorrel-color-accent-ink);
        border-color: var(--sorrel-color-accent);
        font-weight: var(--sorrel-weight-strong);
      }
    `,
  ]
  /** The tab shown, from 0; where tabs lead to routes, the active one is. */
  @property({ type: Number }) shown = 0
  @state() private labels: string[] = []
  @state() private places: { to: string; here: boolean }[] = []
  private panels() {
    return [...this.children].filter((c): c is SorrelTab => c.tagName === 'SORREL-TAB')
  }
  private sync() {
    const panels = this.panels()
    this.labels = panels.map(p => p.label)
    const leads = panels.some(p => p.to)
    this.places = leads ? panels.map(p => ({ to: p.to, here: p.active || !p.to })) : []
    panels.forEach((p, i) => {
      p.hidden = leads ? !this.places[i]!.here : i !== this.shown
    })
  }
  private go(e: Event, to: string) {
    if (!this.tell('sorrel-go', { to: safeHref(to) })) e.preventDefault()
  }
  private choose(i: number, focus = false) {
    this.shown = (i + this.labels.length) % this.labels.length
    this.sync()
    this.tell('sorrel-tab', { index: this.shown })
    if (focus)
      void this.updateComplete.then(() =>
        this.renderRoot.querySelectorAll('button')[this.shown]?.focus(),
      )
  }
  private key(e: KeyboardEvent) {
    const step = along(e, this)
    if (step) {
      e.preventDefault()
      this.choose(this.shown + step, true)
    }
    if (e.key === 'Home') this.choose(0, true)
    if (e.key === 'End') this.choose(this.labels.length - 1, true)
  }
  firstUpdated() {
    this.sync()
  }
  render() {
    if (this.places.length)
      return html`<nav>
          ${this.places.map((p, i) => (p.to ? html`<a href=${safeHref(p.to)} aria-current=${p.here ? 'page' : nothing} @click=${(e: Event) => this.go(e, p.to)}>${this.labels[i]}</a>` : html`<span aria-current="page">${this.labels[i]}</span>`))}
        </nav>
        <slot @slotchange=${this.sync}></slot>`
    return html`<div role="tablist" @keydown=${this.key}>
        ${this.labels.map((l, i) => html`<button role="tab" aria-selected=${i === this.shown} tabindex=${i === this.shown ? 0 : -1} @click=${() => this.choose(i)}>${l}</button>`)}
      </div>
      <slot @slotchange=${this.sync}></slot>`
  }
}

/**
 * One view inside tabs.
 * @tag sorrel-tab
 * @slot - What the view shows.
 */
@define('sorrel-tab')
export class SorrelTab extends SorrelElement {
  static styles = [
    shared,
    css`
      :host {
        display: block;
      }
    `,
  ]
  /** The words on the tab. @required */
  @property() label = ''
  /** The route that the tab leads to; what it shows stands there. */
  @property() to = ''
  /** Set where its route is the one shown. */
  @property({ type: Boolean }) active = false
  updated() {
    this.setAttribute('role', this.to ? 'region' : 'tabpanel')
    this.setAttribute('aria-label', this.label)
    // Its tabs look at their panels anew where one comes, goes, or is set otherwise.
    this.assignedSlot?.dispatchEvent(new Event('slotchange'))
  }
  render() {
    return html`<slot></slot>`
  }
}
