<script setup lang="ts">
import { TsButton, TsCard, TsDateField, TsPageHeader, TsSelect, TsTextField } from '@fernhollow/tansy'
import { useForm } from '../../form'

const { values, submit } = useForm('deliveries')
const states = ['arrived', 'on its way']
</script>

<template>
  <form @submit.prevent="submit">
    <TsPageHeader title="New delivery" />
    <TsCard raised>
      <TsTextField v-model="values.number" label="Number" />
      <TsDateField v-model="values.expected" label="Expected" />
      <TsTextField v-model="values.from" label="From" />
      <TsSelect v-model="values.state" label="State" :options="states" />
      <TsButton look="solid" type="submit">Save</TsButton>
      <TsButton look="quiet" href="/deliveries">Cancel</TsButton>
    </TsCard>
  </form>
</template>
