<script setup lang="ts">
import { TsText } from '@fernhollow/tansy'

defineProps<{ pence: number; muted?: boolean }>()
</script>

<template>
  <TsText :muted="muted" size="small">{{ format(pence) }}</TsText>
</template>
