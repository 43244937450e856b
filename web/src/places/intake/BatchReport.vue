<script setup lang="ts">
import { computed } from 'vue'
import { size, type Batch } from './intake'

/** What was read of a kit, what lacks, and what was left out. */
const props = defineProps<{ batch: Batch }>()
const known = computed(() => Object.entries(props.batch.known).sort((a, b) => b[1] - a[1]))
const most = computed(() => Math.max(1, ...known.value.map(([, n]) => n)))
const code = computed(() =>
  Object.entries(props.batch.meta.sizes ?? {})
    .sort((a, b) => b[1] - a[1])
    .slice(0, 12),
)
const dark = computed(() => props.batch.meta.themes.dark)
</script>

<template>
  <div class="grid flex-1 content-start gap-6 overflow-auto p-4 lg:grid-cols-2">
    <section aria-label="Props by source">
      <h3 class="mb-1 text-lg">Where its props are known from</h3>
      <ul class="grid gap-1">
        <li v-for="[from, n] in known" :key="from" class="flex items-center gap-2">
          <span class="w-24 text-ink2">{{ from || 'not said' }}</span>
          <span class="h-2 bg-moss" :style="{ width: `${(n / most) * 50}%` }"></span>{{ n }}
        </li>
      </ul>
      <p v-if="batch.system.length" class="mt-2 text-ink2">
        {{ batch.system.length }} props stand on most components and are told once:
        {{ batch.system.map(p => p.name).join(', ') }}.
      </p>
    </section>
    <section aria-label="How it is drawn">
      <h3 class="mb-1 text-lg">How it is drawn</h3>
      <dl class="grid grid-cols-[8rem_1fr] gap-y-1">
        <dt class="text-ink2">Framework</dt>
        <dd>{{ batch.meta.framework || 'none; any page shows it' }}</dd>
        <dt class="text-ink2">Around it all</dt>
        <dd>{{ batch.meta.wrap || 'nothing' }}</dd>
        <dt class="text-ink2">Styles</dt>
        <dd>{{ batch.meta.styles?.join(', ') || 'with its code' }}</dd>
        <dt class="text-ink2">Made dark by</dt>
        <dd>{{ dark ? `${dark} (${batch.meta.themes.how})` : 'nothing that is known' }}</dd>
        <dt class="text-ink2">Its frame allows</dt>
        <dd>
          {{
            [
              batch.meta.needs.styleElements && 'style elements',
              batch.meta.needs.styleAttributes && 'style attributes',
              batch.meta.needs.dataFetch && 'data addresses',
            ]
              .filter(Boolean)
              .join(', ') || 'nothing beyond the usual'
          }}; it may connect to nothing
        </dd>
      </dl>
    </section>
    <section aria-label="Code">
      <h3 class="mb-1 text-lg">Whose code is in it</h3>
      <table class="w-full">
        <tbody>
          <tr v-for="[name, bytes] in code" :key="name" class="border-t border-line">
            <td>{{ name }}</td>
            <td class="text-ink2">{{ batch.meta.packages?.[name] }}</td>
            <td class="text-right">{{ size(bytes) }}</td>
          </tr>
        </tbody>
      </table>
    </section>
    <section aria-label="Chosen and missing">
      <h3 class="mb-1 text-lg">Chosen, and missing</h3>
      <ul class="list-inside list-disc">
        <li v-for="n in batch.meta.notes ?? []" :key="n" class="text-ink2">{{ n }}</li>
        <li v-for="m in batch.meta.missing ?? []" :key="m.what" class="text-rust">
          {{ m.what }}: {{ m.remedy }}
        </li>
        <li v-for="u in batch.unfit" :key="u" class="text-rust">{{ u }}</li>
      </ul>
      <p v-if="!batch.meta.missing?.length" class="text-ink2">Nothing lacks.</p>
    </section>
    <section class="lg:col-span-2" aria-label="Left out">
      <h3 class="mb-1 text-lg">
        Left out <span class="text-base font-normal text-ink2">{{ batch.left.length }}</span>
      </h3>
      <table v-if="batch.left.length" class="w-full text-left">
        <tbody>
          <tr v-for="(l, i) in batch.left" :key="i" class="border-t border-line align-top">
            <td class="w-1/3 pr-3 break-all">
              <code>{{ l.where }}</code>
            </td>
            <td class="text-ink2">{{ l.what }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else class="text-ink2">All that it says of itself was understood.</p>
    </section>
  </div>
</template>
