// Yarrow: components of React. All of them want the provider around them, as libraries
// with themes of their own do.
import {
  createContext,
  forwardRef,
  useContext,
  useId,
  useState,
  type ButtonHTMLAttributes,
  type ChangeEvent,
  type ReactNode,
} from 'react'

export type Size = 'sm' | 'md' | 'lg'
export type Status = 'neutral' | 'success' | 'warning' | 'error'

const Scheme = createContext<'light' | 'dark' | undefined>(undefined)

export interface YarrowProviderProps {
  /** Light or dark, for all below. */
  scheme?: 'light' | 'dark'
  children?: ReactNode
}
/** Stands around everything. */
export function YarrowProvider({ scheme = 'light', children }: YarrowProviderProps) {
  return (
    <Scheme.Provider value={scheme}>
      <div className="yr-root" data-yarrow={scheme}>
        {children}
      </div>
    </Scheme.Provider>
  )
}
function useYarrow(who: string) {
  const scheme = useContext(Scheme)
  if (!scheme) throw new Error(`${who} stands outside of YarrowProvider`)
  return scheme
}

export interface ButtonProps extends Omit<ButtonHTMLAttributes<HTMLButtonElement>, 'type'> {
  /**
   * How much it stands out.
   * @default 'secondary'
   */
  variant?: 'primary' | 'secondary' | 'ghost'
  /** @default 'md' */
  size?: Size
  /** It cannot be taken back. */
  destructive?: boolean
  /** It waits for an answer. */
  loading?: boolean
  /** Stands before the words. */
  startIcon?: ReactNode
  children?: ReactNode
}
/** A press that does something. */
export const Button = forwardRef<HTMLButtonElement, ButtonProps>(function Button(
  { variant = 'secondary', size = 'md', destructive, loading, startIcon, children, ...rest },
  ref,
) {
  useYarrow('Button')
  return (
    <button
      {...rest}
      ref={ref}
      type="button"
      disabled={rest.disabled || loading}
      className={`yr-button yr-${variant} yr-${size}${destructive ? ' yr-destructive' : ''}`}
    >
      {startIcon}
      {children}
    </button>
  )
})

export interface LinkProps {
  href: string
  /** Not underlined. */
  subtle?: boolean
  children?: ReactNode
}
export const Link = ({ href, subtle, children }: LinkProps) => (
  <a className={subtle ? 'yr-link yr-muted' : 'yr-link'} href={href}>
    {children}
  </a>
)

interface FieldProps {
  /** What it asks for. */
  label: string
  helperText?: string
  /** What is wrong with it. */
  errorText?: string
  disabled?: boolean
}
function Field({
  label,
  helperText,
  errorText,
  children,
}: FieldProps & { children: (id: string) => ReactNode }) {
  const id = useId()
  return (
    <div className={errorText ? 'yr-field yr-invalid' : 'yr-field'}>
      <label htmlFor={id}>{label}</label>
      {children(id)}
      {errorText ? (
        <small className="yr-error">{errorText}</small>
      ) : helperText ? (
        <small>{helperText}</small>
      ) : null}
    </div>
  )
}

export interface TextFieldProps extends FieldProps {
  value?: string
  placeholder?: string
  type?: 'text' | 'email' | 'search' | 'password' | 'date' | 'number'
  onChange?: (event: ChangeEvent<HTMLInputElement>) => void
}
/** One line of text, a number or a day. */
export function TextField({
  value,
  placeholder,
  type = 'text',
  onChange,
  ...field
}: TextFieldProps) {
  useYarrow('TextField')
  return (
    <Field {...field}>
      {id => (
        <input
          id={id}
          type={type}
          defaultValue={value}
          placeholder={placeholder}
          disabled={field.disabled}
          onChange={onChange}
        />
      )}
    </Field>
  )
}

export interface SelectProps extends FieldProps {
  value?: string
  options?: { value: string; label: string }[]
  onChange?: (event: ChangeEvent<HTMLSelectElement>) => void
}
/** One of a few. */
export function Select({ value, options = [], onChange, ...field }: SelectProps) {
  return (
    <Field {...field}>
      {id => (
        <select id={id} defaultValue={value} disabled={field.disabled} onChange={onChange}>
          {options.map(o => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </select>
      )}
    </Field>
  )
}

export interface CheckboxProps {
  label: string
  checked?: boolean
  disabled?: boolean
  onChange?: (event: ChangeEvent<HTMLInputElement>) => void
}
export const Checkbox = ({ label, checked, disabled, onChange }: CheckboxProps) => (
  <label className="yr-check">
    <input type="checkbox" defaultChecked={checked} disabled={disabled} onChange={onChange} />
    {label}
  </label>
)
export const Toggle = ({ label, checked, onChange }: CheckboxProps) => {
  const [on, set] = useState(checked ?? false)
  return (
    <button
      type="button"
      role="switch"
      aria-checked={on}
      className="yr-toggle"
      onClick={e => {
        set(!on)
        onChange?.(e as unknown as ChangeEvent<HTMLInputElement>)
      }}
    >
      <i />
      {label}
    </button>
  )
}

export interface CardProps {
  title?: ReactNode
  footer?: ReactNode
  children?: ReactNode
}
export const Card = ({ title, footer, children }: CardProps) => (
  <section className="yr-card">
    {title ? <h3>{title}</h3> : null}
    {children}
    {footer ? <footer>{footer}</footer> : null}
  </section>
)

export interface BadgeProps {
  status?: Status
  children?: ReactNode
}
/** A state in a word. */
export const Badge = ({ status = 'neutral', children }: BadgeProps) => (
  <span className={`yr-badge yr-${status}`}>{children}</span>
)

export const Avatar = ({ name, size = 'md' }: { name: string; size?: Size }) => (
  <span className={`yr-avatar yr-${size}`} title={name}>
    {name
      .split(' ')
      .map(w => w[0])
      .join('')
      .slice(0, 2)}
  </span>
)

export interface AlertProps {
  status?: Status
  title?: string
  children?: ReactNode
}
export const Alert = ({ status = 'neutral', title, children }: AlertProps) => (
  <div className={`yr-alert yr-${status}`} role="status">
    {title ? <b>{title}</b> : null} {children}
  </div>
)

export interface DialogProps {
  title: string
  open?: boolean
  actions?: ReactNode
  onClose?: () => void
  children?: ReactNode
}
export const Dialog = ({ title, open, actions, onClose, children }: DialogProps) =>
  open ? (
    <div className="yr-veil">
      <div className="yr-dialog" role="dialog" aria-label={title}>
        <h2>{title}</h2>
        {children}
        <footer>{actions ?? <Button onClick={onClose}>Close</Button>}</footer>
      </div>
    </div>
  ) : null

interface TabsState {
  shown: string
  show: (value: string) => void
}
const TabsContext = createContext<TabsState | undefined>(undefined)
export interface TabsProps {
  /** The tab that is shown first. */
  defaultValue?: string
  children?: ReactNode
}
function TabsRoot({ defaultValue = '', children }: TabsProps) {
  const [shown, show] = useState(defaultValue)
  return (
    <TabsContext.Provider value={{ shown, show }}>
      <div className="yr-tabs">{children}</div>
    </TabsContext.Provider>
  )
}
export interface TabsItemProps {
  value: string
  label: string
  children?: ReactNode
}
function TabsItem({ value, label, children }: TabsItemProps) {
  const tabs = useContext(TabsContext)
  if (!tabs) throw new Error('Tabs.Item stands outside of Tabs')
  const shown = tabs.shown === value
  return (
    <div className="yr-tab">
      <button type="button" aria-expanded={shown} onClick={() => tabs.show(value)}>
        {label}
      </button>
      {shown ? <div>{children}</div> : null}
    </div>
  )
}
/** Parts of a page, one at a time. */
export const Tabs = Object.assign(TabsRoot, { Item: TabsItem })

export interface AppBarProps {
  brand?: ReactNode
  end?: ReactNode
  children?: ReactNode
}
export const AppBar = ({ brand, end, children }: AppBarProps) => (
  <header className="yr-bar">
    <b>{brand}</b>
    <nav>{children}</nav>
    <span>{end}</span>
  </header>
)
export const NavLink = ({
  href,
  active,
  children,
}: {
  href: string
  active?: boolean
  children?: ReactNode
}) => (
  <a className="yr-nav" href={href} aria-current={active ? 'page' : undefined}>
    {children}
  </a>
)

export interface PageHeaderProps {
  title: string
  subtitle?: string
  actions?: ReactNode
}
export const PageHeader = ({ title, subtitle, actions }: PageHeaderProps) => (
  <div className="yr-page">
    <div>
      <h1>{title}</h1>
      {subtitle ? <p>{subtitle}</p> : null}
    </div>
    <div>{actions}</div>
  </div>
)

export const Heading = ({
  order = 2,
  children,
}: {
  order?: 1 | 2 | 3 | 4
  children?: ReactNode
}) => {
  const Tag = `h${order}` as 'h1'
  return <Tag className="yr-heading">{children}</Tag>
}
export const Text = ({
  muted,
  size = 'md',
  children,
}: {
  muted?: boolean
  size?: Size
  children?: ReactNode
}) => <p className={`yr-text yr-${size}${muted ? ' yr-muted' : ''}`}>{children}</p>

export interface DataTableProps {
  columns?: { field: string; header: string }[]
  data?: Record<string, string | number>[]
  children?: ReactNode
}
export const DataTable = ({ columns = [], data = [], children }: DataTableProps) => (
  <table className="yr-table">
    <thead>
      <tr>
        {columns.map(c => (
          <th key={c.field}>{c.header}</th>
        ))}
      </tr>
    </thead>
    <tbody>
      {children ??
        data.map((row, i) => (
          <tr key={i}>
            {columns.map(c => (
              <td key={c.field}>{row[c.field]}</td>
            ))}
          </tr>
        ))}
    </tbody>
  </table>
)

export const Pagination = ({
  page,
  pageCount,
  onChange,
}: {
  page?: number
  pageCount?: number
  onChange?: (page: number) => void
}) => (
  <nav className="yr-pages" aria-label="Pages">
    {Array.from({ length: pageCount ?? 1 }, (_, i) => (
      <button
        key={i}
        type="button"
        aria-current={i + 1 === page ? 'page' : undefined}
        onClick={() => onChange?.(i + 1)}
      >
        {i + 1}
      </button>
    ))}
  </nav>
)
export const Spinner = ({ size = 'md' }: { size?: Size }) => (
  <span className={`yr-spinner yr-${size}`} role="status" aria-label="Loading" />
)
export const Divider = () => <hr className="yr-divider" />
