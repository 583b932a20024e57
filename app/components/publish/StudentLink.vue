<script setup lang="ts">
import { changeWords, dateAndTime, megabytes } from '#core/publish'

/** The one link: what stands under it, and what has changed since. */
const site = useClassSite()
const publish = usePublish()
const store = useFolio()
const differs = computed(() => (site.changes ? changeWords(site.changes, store.questions) : []))
const idle = computed(() => publish.recorded.length > 0 && publish.working === '')
</script>

<template>
  <div
    class="flex flex-col gap-4"
    data-part="student-link"
  >
    <div
      v-if="site.published"
      class="border-l-4 pl-4"
      :class="site.current && !site.isChanged ? 'border-(--ui-success)' : 'border-(--ui-primary)'"
    >
      <SharedLink
        large
        part="class-link"
        :link="site.published.link"
        of="this folio"
      />
      <p
        v-if="site.current"
        class="mt-1"
        data-part="version-now"
      >
        Students have version {{ site.numberOf(site.current.id) }}, {{ dateAndTime(site.current.at) }},
        {{ megabytes(site.current.bytes) }}.
        <template v-if="!site.isChanged"> It says what the folio says. </template>
        <template v-else> Since then — {{ differs.join('; ') }}. </template>
      </p>
      <p
        v-else
        class="mt-1"
        data-part="version-now"
      >
        Students have nothing of it now. The link stays.
      </p>
      <p
        v-if="site.away"
        class="mt-1 text-toned"
        role="status"
      >
        {{ site.away }}
      </p>
      <ClassPageLine class="mt-1" />
    </div>
    <div class="flex flex-wrap items-center gap-3">
      <UButton
        size="xl"
        icon="i-lucide-send"
        :disabled="!idle || store.readOnly"
        :color="site.current && !site.isChanged ? 'neutral' : 'primary'"
        :variant="site.current && !site.isChanged ? 'outline' : 'solid'"
        @click="site.toStudents"
      >
        {{ site.published ? 'Publish the changes' : 'Publish' }} <kbd class="key">P</kbd>
      </UButton>
      <slot />
    </div>
  </div>
</template>
