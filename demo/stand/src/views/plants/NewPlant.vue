<script setup lang="ts">
import { TsButton, TsCard, TsDateField, TsPageHeader, TsSelect, TsTextField } from '@fernhollow/tansy'
import { useForm } from '../../form'

const { values, submit } = useForm('plants')
const states = ['there', 'gone']
</script>

<template>
  <form @submit.prevent="submit">
    <TsPageHeader title="New plant" />
    <TsCard raised>
      <TsTextField v-model="values.name" label="Name" />
      <TsTextField v-model="values.price" label="Price" />
      <TsTextField v-model="values.shelf" label="Shelf" />
      <TsSelect v-model="values.state" label="State" :options="states" />
      <TsButton look="solid" type="submit">Save</TsButton>
      <TsButton look="quiet" href="/plants">Cancel</TsButton>
    </TsCard>
  </form>
</template>
