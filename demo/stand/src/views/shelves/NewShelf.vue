<script setup lang="ts">
import { TsButton, TsCard, TsDateField, TsPageHeader, TsSelect, TsTextField } from '@fernhollow/tansy'
import { useForm } from '../../form'

const { values, submit } = useForm('shelves')
const states = ['full', 'empty']
</script>

<template>
  <form @submit.prevent="submit">
    <TsPageHeader title="New shelf" />
    <TsCard raised>
      <TsTextField v-model="values.name" label="Name" />
      <TsTextField v-model="values.place" label="Place" />
      <TsTextField v-model="values.room" label="Room" />
      <TsSelect v-model="values.state" label="State" :options="states" />
      <TsButton look="solid" type="submit">Save</TsButton>
      <TsButton look="quiet" href="/shelves">Cancel</TsButton>
    </TsCard>
  </form>
</template>
