<script setup lang="ts">
import { TsButton, TsCard, TsLink, TsPageHeader, TsTag, TsTextField } from '@fernhollow/tansy'
import { useSales } from './data'

const { sales, search } = useSales()
</script>

<template>
  <ts-page-header title="Sales">
    <template #actions>
      <ts-button look="solid" href="/sales/new">New sale</ts-button>
    </template>
  </ts-page-header>
  <ts-card>
    <ts-text-field v-model="search" kind="search" label="Search sales" />
  </ts-card>
  <table>
    <tr v-for="sale in sales" :key="sale.id">
      <td><ts-link :href="`/sales/${sale.id}`" subtle>{{ sale.number }}</ts-link></td>
      <td><ts-tag :tone="sale.state === 'paid' ? 'good' : 'neutral'">{{ sale.state }}</ts-tag></td>
      <td><ts-button look="quiet" size="small" :href="`/sales/${sale.id}/edit`">Edit</ts-button></td>
    </tr>
  </table>
</template>
