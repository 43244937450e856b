import { createRouter, createWebHistory } from 'vue-router'
import { missing, routes } from './{{.Inside}}'

export const router = createRouter({
  history: createWebHistory(import.meta.env.BASE_URL),
  routes: [...routes, missing],
})
