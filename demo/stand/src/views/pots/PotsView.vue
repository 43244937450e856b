<script setup lang="ts">
import { TsButton, TsCard, TsLink, TsPageHeader, TsTag, TsTextField } from '@fernhollow/tansy'
import { usePots } from './data'

const { pots, search } = usePots()
</script>

<template>
  <ts-page-header title="Pots">
    <template #actions>
      <ts-button look="solid" href="/pots/new">New pot</ts-button>
    </template>
  </ts-page-header>
  <ts-card>
    <ts-text-field v-model="search" kind="search" label="Search pots" />
  </ts-card>
  <table>
    <tr v-for="pot in pots" :key="pot.id">
      <td><ts-link :href="`/pots/${pot.id}`" subtle>{{ pot.name }}</ts-link></td>
      <td><ts-tag :tone="pot.state === 'there' ? 'good' : 'neutral'">{{ pot.state }}</ts-tag></td>
      <td><ts-button look="quiet" :href="`/pots/${pot.id}/edit`">Edit</ts-button></td>
    </tr>
  </table>
</template>
