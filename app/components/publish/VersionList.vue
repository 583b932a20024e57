<script setup lang="ts">
import { dateAndTime, megabytes } from '#core/publish'

/** All versions that stand under the link: one of them, or none, is what students have. */
const open = defineModel<boolean>('open', { required: true })
const site = useClassSite()
const publish = usePublish()
const notices = useNotices()
const store = useFolio()
const versions = computed(() => (site.published?.versions ?? []).map((v, i) => ({ ...v, number: i + 1 })).toReversed())
/** What the site no longer keeps cannot be brought back. */
const isThere = (id: string) => site.state === null || site.state.versions.some(v => v.version === id)
/** What is asked stands in front. */
function bringBack(id: string) {
  open.value = false
  void site.show(id)
}
async function takeAway() {
  open.value = false
  const sure = await notices.ask(
    'Take it from students?',
    'Nothing stands under the link then. The versions stay, and each can be brought back.',
    'Take it away',
  )
  if (sure !== null) await site.show(null)
}
async function giveUp() {
  open.value = false
  const sure = await notices.ask(
    'Give up this link?',
    'What students have stays under it, and can no longer be changed from here. What you publish next gets a new link.',
    'Give it up',
  )
  if (sure !== null) site.forget()
}
</script>

<template>
  <UModal
    v-model:open="open"
    title="Versions"
    description="They stand under one link. Bring back an earlier one, and students have that at once."
    :ui="{ content: 'max-w-2xl' }"
  >
    <template #body>
      <table class="w-full">
        <thead class="text-left text-sm text-toned">
          <tr class="border-b border-(--rule-fine)">
            <th class="py-1.5 pr-4 font-normal">Version</th>
            <th class="py-1.5 pr-4 font-normal">Published</th>
            <th class="py-1.5 pr-4 font-normal">Questions</th>
            <th class="py-1.5 pr-4 font-normal">Size</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="v in versions"
            :key="v.id"
            class="border-b border-(--rule-fine)"
            data-part="version"
          >
            <td class="py-2 pr-4 tabular-nums">{{ v.number }}</td>
            <td class="py-2 pr-4">{{ dateAndTime(v.at) }}</td>
            <td class="py-2 pr-4 tabular-nums">{{ v.of.length }}</td>
            <td class="py-2 pr-4 tabular-nums">{{ megabytes(v.bytes) }}</td>
            <td class="py-1 text-right">
              <span
                v-if="v.id === site.published?.current"
                class="inline-flex h-8 items-center gap-1.5"
                ><UIcon name="i-lucide-check" /> Students have it</span
              >
              <span
                v-else-if="!isThere(v.id)"
                class="text-toned"
                >No longer kept</span
              >
              <UButton
                v-else
                color="neutral"
                variant="outline"
                :disabled="publish.working !== '' || store.readOnly"
                @click="bringBack(v.id)"
              >
                Bring back
              </UButton>
            </td>
          </tr>
        </tbody>
      </table>
      <UCheckbox
        class="mt-5"
        :model-value="site.published?.counts ?? false"
        label="Count plays, repeats and “not yet”, without names, from the next version on"
        description="No cookie, no address. Steps that students go back to, or leave at, are told in the ledger, on Proof."
        :disabled="store.readOnly"
        @update:model-value="site.count($event === true)"
      />
      <PlayCounts />
    </template>
    <template #footer>
      <UButton
        v-if="site.published?.current"
        class="ml-auto"
        color="neutral"
        variant="outline"
        :disabled="publish.working !== '' || store.readOnly"
        @click="takeAway"
      >
        Take it from students
      </UButton>
      <UButton
        color="neutral"
        variant="ghost"
        :disabled="publish.working !== '' || store.readOnly"
        @click="giveUp"
      >
        Give up this link
      </UButton>
    </template>
  </UModal>
</template>
