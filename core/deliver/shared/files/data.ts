// Where records come from. This file is yours: it was written once and is never written again.
//
// A list that has a loader here comes from it, for example
//
//   export const loaders: Loaders = {
//     tickets: async (_, signal) => (await fetch('/api/tickets', { signal })).json(),
//   }
//
// One without comes from its service, where the workspace names one, else it is a sample;
// samples are left out of a production build.
//
// What a press changes is seen at once. Where it is to last, say how it is kept:
//
//   export const savers: Savers = {
//     tickets: { change: (ticket, set) => send(`/api/tickets/${ticket.id}`, set) },
//   }
//
// Where that fails, the change is taken back.
import type { Loaders } from './store'

export const loaders: Loaders = {}
