<script setup lang="ts">
import { TsButton, TsCard, TsLink, TsPageHeader, TsTag, TsTextField } from '@fernhollow/tansy'
import { useRefunds } from './data'

const { refunds, search } = useRefunds()
</script>

<template>
  <ts-page-header title="Refunds">
    <template #actions>
      <ts-button look="solid" href="/refunds/new">New refund</ts-button>
    </template>
  </ts-page-header>
  <ts-card>
    <ts-text-field v-model="search" kind="search" label="Search refunds" />
  </ts-card>
  <table>
    <tr v-for="refund in refunds" :key="refund.id">
      <td><ts-link :href="`/refunds/${refund.id}`" subtle>{{ refund.sale }}</ts-link></td>
      <td><ts-tag :tone="refund.state === 'made' ? 'good' : 'neutral'">{{ refund.state }}</ts-tag></td>
      <td><ts-button look="quiet" size="small" :href="`/refunds/${refund.id}/edit`">Edit</ts-button></td>
    </tr>
  </table>
</template>
