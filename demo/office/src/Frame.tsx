import { AppBar, Avatar, NavLink } from '@fernhollow/yarrow'
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
