import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter, RouterProvider } from 'react-router'
import { missing, routes, setup } from './{{.Inside}}'

setup()
const router = createBrowserRouter([...routes, missing])
const root = document.getElementById('root')
if (!root) throw new Error('the page has no element "root"')
createRoot(root).render(
  <StrictMode>
    <RouterProvider router={router} />
  </StrictMode>,
)
