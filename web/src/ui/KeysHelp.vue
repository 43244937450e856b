<script setup lang="ts">
import { keyTable } from '../use/keys'
import AppDialog from './AppDialog.vue'

defineEmits<{ close: [] }>()
</script>

<template>
  <AppDialog title="Keys" wide @close="$emit('close')">
    <div class="grid gap-6 sm:grid-cols-3">
      <section v-for="g in keyTable" :key="g.group">
        <h3 class="mb-2">{{ g.group }}</h3>
        <dl class="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
          <template v-for="[key, what] in g.keys" :key="key"
            ><dt>
              <kbd class="kbd whitespace-nowrap">{{ key }}</kbd>
            </dt>
            <dd>{{ what }}</dd></template
          >
        </dl>
      </section>
    </div>
    <p class="mt-4 text-ink2">
      Single letters act only while a line has the focus, never while typing.
    </p>
  </AppDialog>
</template>
