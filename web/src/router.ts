import { createRouter, createWebHistory } from 'vue-router'

/** Every place, screen, element and question has an address that can be sent to a colleague. */
export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'overview', component: () => import('./places/overview/OverviewPlace.vue') },
    { path: '/shelf', name: 'shelf', component: () => import('./places/shelf/ShelfPlace.vue') },
    {
      path: '/shelf/:tag',
      name: 'component',
      component: () => import('./places/shelf/ComponentPage.vue'),
    },
    {
      path: '/bench/:kind/:id',
      name: 'bench',
      component: () => import('./places/bench/BenchPlace.vue'),
    },
    {
      path: '/bench/screen/:id/picture',
      name: 'picture',
      component: () => import('./places/plan/PlanPlace.vue'),
    },
    {
      path: '/samples/:model?',
      name: 'samples',
      component: () => import('./places/samples/SamplesPlace.vue'),
    },
    {
      path: '/census/:part?',
      name: 'census',
      component: () => import('./places/census/CensusPlace.vue'),
    },
    {
      path: '/intake/:hash?',
      name: 'intake',
      component: () => import('./places/intake/IntakePlace.vue'),
    },
    {
      path: '/deliver',
      name: 'deliver',
      component: () => import('./places/deliver/DeliverPlace.vue'),
    },
    {
      path: '/measuring',
      name: 'measuring',
      component: () => import('./places/census/MeasuringPage.vue'),
    },
    { path: '/texts', name: 'texts', component: () => import('./places/texts/TextsPlace.vue') },
    { path: '/people', name: 'people', component: () => import('./places/people/PeoplePlace.vue') },
    { path: '/sign-in', name: 'sign-in', component: () => import('./places/SignIn.vue') },
    { path: '/:rest(.*)', name: 'lost', component: () => import('./places/LostPlace.vue') },
  ],
})
