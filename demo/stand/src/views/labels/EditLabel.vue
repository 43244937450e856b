<script setup lang="ts">
import { TsButton, TsCard, TsDateField, TsPageHeader, TsSelect, TsTextField } from '@fernhollow/tansy'
import { useForm } from '../../form'

const { values, submit } = useForm('labels')
const states = ['printed', 'waiting']
</script>

<template>
  <form @submit.prevent="submit">
    <TsPageHeader title="Edit label" />
    <TsCard raised>
      <TsTextField v-model="values.text" label="Text" />
      <TsDateField v-model="values.printed" label="Printed" />
      <TsTextField v-model="values.plant" label="Plant" />
      <TsSelect v-model="values.state" label="State" :options="states" />
      <TsButton look="solid" type="submit">Save</TsButton>
      <TsButton look="outline" href="/labels">Cancel</TsButton>
    </TsCard>
  </form>
</template>
