// Stands for a framework's router where there is none: everything is at the first page.
const nothing = () => {}
const router = {
  push: nothing,
  replace: nothing,
  refresh: nothing,
  back: nothing,
  forward: nothing,
  prefetch: nothing,
  pathname: '/',
  asPath: '/',
  query: {},
  events: { on: nothing, off: nothing, emit: nothing },
}
export const useRouter = () => router
export const usePathname = () => '/'
export const useSearchParams = () => new URLSearchParams()
export const useParams = () => ({})
export const useSelectedLayoutSegment = () => null
export const useSelectedLayoutSegments = () => []
export const redirect = nothing
export const permanentRedirect = nothing
export const notFound = nothing
export const withRouter = Component => Component
export default router
