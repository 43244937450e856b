import { createBrowserRouter } from 'react-router'
import { Frame } from './Frame'
import { TicketsList } from '~/screens/tickets/TicketsList'
import { NewTicket } from '~/screens/tickets/NewTicket'
import { EditTicket } from '~/screens/tickets/EditTicket'
import { BedsList } from '~/screens/beds/BedsList'
import { NewBed } from '~/screens/beds/NewBed'
import { EditBed } from '~/screens/beds/EditBed'
import { SpecimensList } from '~/screens/specimens/SpecimensList'
import { NewSpecimen } from '~/screens/specimens/NewSpecimen'
import { EditSpecimen } from '~/screens/specimens/EditSpecimen'
import { RoundsList } from '~/screens/rounds/RoundsList'
import { NewRound } from '~/screens/rounds/NewRound'
import { EditRound } from '~/screens/rounds/EditRound'
import { OrdersList } from '~/screens/orders/OrdersList'
import { NewOrder } from '~/screens/orders/NewOrder'
import { EditOrder } from '~/screens/orders/EditOrder'
import { VolunteersList } from '~/screens/volunteers/VolunteersList'
import { NewVolunteer } from '~/screens/volunteers/NewVolunteer'
import { EditVolunteer } from '~/screens/volunteers/EditVolunteer'
import { ShiftsList } from '~/screens/shifts/ShiftsList'
import { NewShift } from '~/screens/shifts/NewShift'
import { EditShift } from '~/screens/shifts/EditShift'
import { CountsList } from '~/screens/counts/CountsList'
import { NewCount } from '~/screens/counts/NewCount'
import { EditCount } from '~/screens/counts/EditCount'
import { MessagesList } from '~/screens/messages/MessagesList'
import { NewMessage } from '~/screens/messages/NewMessage'
import { EditMessage } from '~/screens/messages/EditMessage'
import { SuppliersList } from '~/screens/suppliers/SuppliersList'
import { NewSupplier } from '~/screens/suppliers/NewSupplier'
import { EditSupplier } from '~/screens/suppliers/EditSupplier'

export const router = createBrowserRouter([
  {
    path: '/',
    element: <Frame />,
    children: [
      { path: 'tickets', element: <TicketsList /> },
      { path: 'tickets/new', element: <NewTicket /> },
      { path: 'tickets/:id/edit', element: <EditTicket /> },
      { path: 'tickets/:id', lazy: () => import('~/screens/tickets/TicketPage').then(m => ({ Component: m.TicketPage })) },
      { path: 'beds', element: <BedsList /> },
      { path: 'beds/new', element: <NewBed /> },
      { path: 'beds/:id/edit', element: <EditBed /> },
      { path: 'beds/:id', lazy: () => import('~/screens/beds/BedPage').then(m => ({ Component: m.BedPage })) },
      { path: 'specimens', element: <SpecimensList /> },
      { path: 'specimens/new', element: <NewSpecimen /> },
      { path: 'specimens/:id/edit', element: <EditSpecimen /> },
      { path: 'specimens/:id', lazy: () => import('~/screens/specimens/SpecimenPage').then(m => ({ Component: m.SpecimenPage })) },
      { path: 'rounds', element: <RoundsList /> },
      { path: 'rounds/new', element: <NewRound /> },
      { path: 'rounds/:id/edit', element: <EditRound /> },
      { path: 'rounds/:id', lazy: () => import('~/screens/rounds/RoundPage').then(m => ({ Component: m.RoundPage })) },
      { path: 'orders', element: <OrdersList /> },
      { path: 'orders/new', element: <NewOrder /> },
      { path: 'orders/:id/edit', element: <EditOrder /> },
      { path: 'orders/:id', lazy: () => import('~/screens/orders/OrderPage').then(m => ({ Component: m.OrderPage })) },
      { path: 'volunteers', element: <VolunteersList /> },
      { path: 'volunteers/new', element: <NewVolunteer /> },
      { path: 'volunteers/:id/edit', element: <EditVolunteer /> },
      { path: 'volunteers/:id', lazy: () => import('~/screens/volunteers/VolunteerPage').then(m => ({ Component: m.VolunteerPage })) },
      { path: 'shifts', element: <ShiftsList /> },
      { path: 'shifts/new', element: <NewShift /> },
      { path: 'shifts/:id/edit', element: <EditShift /> },
      { path: 'shifts/:id', lazy: () => import('~/screens/shifts/ShiftPage').then(m => ({ Component: m.ShiftPage })) },
      { path: 'counts', element: <CountsList /> },
      { path: 'counts/new', element: <NewCount /> },
      { path: 'counts/:id/edit', element: <EditCount /> },
      { path: 'counts/:id', lazy: () => import('~/screens/counts/CountPage').then(m => ({ Component: m.CountPage })) },
      { path: 'messages', element: <MessagesList /> },
      { path: 'messages/new', element: <NewMessage /> },
      { path: 'messages/:id/edit', element: <EditMessage /> },
      { path: 'messages/:id', lazy: () => import('~/screens/messages/MessagePage').then(m => ({ Component: m.MessagePage })) },
      { path: 'suppliers', element: <SuppliersList /> },
      { path: 'suppliers/new', element: <NewSupplier /> },
      { path: 'suppliers/:id/edit', element: <EditSupplier /> },
      { path: 'suppliers/:id', lazy: () => import('~/screens/suppliers/SupplierPage').then(m => ({ Component: m.SupplierPage })) },
    ],
  },
])
