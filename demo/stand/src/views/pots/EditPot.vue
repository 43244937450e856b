<script setup lang="ts">
import { TsButton, TsCard, TsDateField, TsPageHeader, TsSelect, TsTextField } from '@fernhollow/tansy'
import { useForm } from '../../form'

const { values, submit } = useForm('pots')
const states = ['there', 'gone']
</script>

<template>
  <form @submit.prevent="submit">
    <ts-page-header title="Edit pot" />
    <ts-card raised>
      <ts-text-field v-model="values.name" label="Name" />
      <ts-text-field v-model="values.size" label="Size" />
      <ts-text-field v-model="values.colour" label="Colour" />
      <ts-select v-model="values.state" label="State" :options="states" />
      <ts-button look="solid" type="submit">Save</ts-button>
      <ts-button look="quiet" href="/pots">Cancel</ts-button>
    </ts-card>
  </form>
</template>
