<script setup lang="ts">
import { TsButton, TsCard, TsLink, TsPageHeader, TsTag, TsTextField } from '@fernhollow/tansy'
import { usePrices } from './data'

const { prices, search } = usePrices()
</script>

<template>
  <ts-page-header title="Prices">
    <template #actions>
      <ts-button href="/prices/new">New price</ts-button>
    </template>
  </ts-page-header>
  <ts-card>
    <ts-text-field v-model="search" kind="search" label="Search prices" />
  </ts-card>
  <table>
    <tr v-for="price in prices" :key="price.id">
      <td><ts-link :href="`/prices/${price.id}`" subtle>{{ price.plant }}</ts-link></td>
      <td><ts-tag :tone="price.state === 'current' ? 'good' : 'neutral'">{{ price.state }}</ts-tag></td>
      <td><ts-button look="quiet" size="small" :href="`/prices/${price.id}/edit`">Edit</ts-button></td>
    </tr>
  </table>
</template>
