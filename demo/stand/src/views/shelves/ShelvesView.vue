<script setup lang="ts">
import { TsButton, TsCard, TsLink, TsPageHeader, TsTag, TsTextField } from '@fernhollow/tansy'
import { useShelves } from './data'

const { shelves, search } = useShelves()
</script>

<template>
  <TsPageHeader title="Shelves">
    <template #actions>
      <TsButton look="solid" href="/shelves/new">New shelf</TsButton>
    </template>
  </TsPageHeader>
  <TsCard>
    <TsTextField v-model="search" kind="search" label="Search shelves" />
  </TsCard>
  <table>
    <tr v-for="shelf in shelves" :key="shelf.id">
      <td><TsLink :href="`/shelves/${shelf.id}`" subtle>{{ shelf.name }}</TsLink></td>
      <td><TsTag :tone="shelf.state === 'full' ? 'good' : 'neutral'">{{ shelf.state }}</TsTag></td>
      <td><TsButton look="quiet" size="small" :href="`/shelves/${shelf.id}/edit`">Edit</TsButton></td>
    </tr>
  </table>
</template>
