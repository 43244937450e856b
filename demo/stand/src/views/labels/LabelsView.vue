<script setup lang="ts">
import { TsButton, TsCard, TsLink, TsPageHeader, TsTag, TsTextField } from '@fernhollow/tansy'
import { useLabels } from './data'

const { labels, search } = useLabels()
</script>

<template>
  <TsPageHeader title="Labels">
    <template #actions>
      <TsButton look="solid" href="/labels/new">New label</TsButton>
    </template>
  </TsPageHeader>
  <TsCard>
    <TsTextField v-model="search" kind="search" label="Search labels" />
  </TsCard>
  <table>
    <tr v-for="label in labels" :key="label.id">
      <td><TsLink :href="`/labels/${label.id}`" subtle>{{ label.text }}</TsLink></td>
      <td><TsTag :tone="label.state === 'printed' ? 'good' : 'neutral'">{{ label.state }}</TsTag></td>
      <td><TsButton look="quiet" size="small" :href="`/labels/${label.id}/edit`">Edit</TsButton></td>
    </tr>
  </table>
</template>
