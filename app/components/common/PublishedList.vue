<script setup lang="ts">
import type { Folio } from '#core/folio'
import { changesSince, changeWords, dateAndTime, megabytes } from '#core/publish'

/** Everything that stands on the class site from this browser: where, which version, and what has changed since. */
const props = defineProps<{ folios: readonly Folio[] }>()
const { copy, copied, text } = useClipboard()
const rows = computed(() =>
  props.folios.flatMap(folio => {
    const { published } = folio
    if (!published) return []
    const index = published.versions.findIndex(v => v.id === published.current)
    const version = published.versions[index]
    const recorded = folio.questions.filter(q => q.ledger)
    const since = version ? changeWords(changesSince(version, folio, recorded), folio.questions) : []
    return [{ folio, link: published.link, number: index + 1, version, since: since.join('; ') }]
  }),
)
</script>

<template>
  <section
    v-if="rows.length"
    data-part="published-list"
  >
    <h2 class="text-xl font-semibold">With students</h2>
    <table class="mt-3 w-full border border-(--rule-fine) bg-default text-sm">
      <thead class="text-left text-toned">
        <tr class="border-b border-(--rule-fine)">
          <th class="px-4 py-2 font-normal">Folio</th>
          <th class="px-4 py-2 font-normal">Link</th>
          <th class="px-4 py-2 font-normal">Version</th>
          <th class="px-4 py-2 font-normal">Published</th>
          <th class="px-4 py-2 font-normal">Size</th>
          <th class="px-4 py-2 font-normal">Since then</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="{ folio, link, number, version, since } in rows"
          :key="folio.id"
          class="border-b border-(--rule-fine) last:border-b-0"
        >
          <td class="px-4 py-2">
            <NuxtLink
              :to="`/folio/${folio.id}/publish`"
              class="serif text-base font-semibold hover:underline"
              >{{ folio.title }}</NuxtLink
            >
          </td>
          <td class="px-4 py-2">
            <span class="flex items-center gap-2">
              <a
                class="break-all text-primary underline"
                :href="link"
                target="_blank"
                rel="noopener"
                >{{ link }}</a
              >
              <UButton
                color="neutral"
                variant="ghost"
                size="sm"
                :icon="copied && text === link ? 'i-lucide-check' : 'i-lucide-copy'"
                :aria-label="`Copy the link of ${folio.title}`"
                title="Copy"
                @click="copy(link)"
              />
            </span>
          </td>
          <template v-if="version">
            <td class="px-4 py-2 tabular-nums">{{ number }}</td>
            <td class="px-4 py-2 whitespace-nowrap">{{ dateAndTime(version.at) }}</td>
            <td class="px-4 py-2 whitespace-nowrap tabular-nums">{{ megabytes(version.bytes) }}</td>
            <td class="px-4 py-2">{{ since || 'nothing changed' }}</td>
          </template>
          <td
            v-else
            colspan="4"
            class="px-4 py-2 text-toned"
          >
            Students have nothing of it now. The link stays.
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
