<script setup lang="ts">
import { TsButton, TsCard, TsLink, TsPageHeader, TsTag, TsTextField } from '@fernhollow/tansy'
import { useCustomers } from './data'

const { customers, search } = useCustomers()
</script>

<template>
  <ts-page-header title="Customers">
    <template #actions>
      <ts-button look="solid" href="/customers/new">New customer</ts-button>
    </template>
  </ts-page-header>
  <ts-card>
    <ts-text-field v-model="search" kind="search" label="Search customers" />
  </ts-card>
  <table>
    <tr v-for="customer in customers" :key="customer.id">
      <td><ts-link :href="`/customers/${customer.id}`" subtle>{{ customer.name }}</ts-link></td>
      <td><ts-tag :tone="customer.state === 'regular' ? 'good' : 'neutral'">{{ customer.state }}</ts-tag></td>
      <td><ts-button look="quiet" size="small" :href="`/customers/${customer.id}/edit`">Edit</ts-button></td>
    </tr>
  </table>
</template>
