<script setup lang="ts">
import { TsButton, TsCard, TsLink, TsPageHeader, TsTag, TsTextField } from '@fernhollow/tansy'
import { usePlants } from './data'

const { plants, search } = usePlants()
</script>

<template>
  <TsPageHeader title="Plants">
    <template #actions>
      <TsButton look="solid" href="/plants/new">New plant</TsButton>
    </template>
  </TsPageHeader>
  <TsCard>
    <TsTextField v-model="search" kind="search" label="Search plants" />
  </TsCard>
  <table>
    <tr v-for="plant in plants" :key="plant.id">
      <td><TsLink :href="`/plants/${plant.id}`" subtle>{{ plant.name }}</TsLink></td>
      <td><TsTag :tone="plant.state === 'there' ? 'good' : 'neutral'">{{ plant.state }}</TsTag></td>
      <td><TsButton look="quiet" size="small" :href="`/plants/${plant.id}/edit`">Edit</TsButton></td>
    </tr>
  </table>
</template>
