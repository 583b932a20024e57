<script setup lang="ts">
/** The class page that the folio stands on, or how it gets there. */
const store = useFolio()
const site = useClassSite()
const publish = usePublish()
const course = computed(() => store.folio?.course.trim() ?? '')
const page = computed(() => site.classPage)
/** The folio belongs to another course by now than the page on which it stands. */
const isElsewhere = computed(
  () => !!page.value && !!course.value && page.value.name.toLowerCase() !== course.value.toLowerCase(),
)
const locked = computed(() => store.readOnly || publish.working !== '')
</script>

<template>
  <div
    v-if="site.published && site.state"
    data-part="class-page"
  >
    <template v-if="page">
      <p class="flex flex-wrap items-center gap-x-3">
        <span
          >With all lessons of <b class="serif">{{ page.name }}</b> on its class page:</span
        >
        <SharedLink
          :link="page.link"
          :of="`the class page ${page.name}`"
        />
        <UButton
          v-if="isElsewhere"
          color="neutral"
          variant="outline"
          size="sm"
          :disabled="locked"
          @click="site.setClassPage(true)"
        >
          Move it to {{ course }}
        </UButton>
        <UButton
          color="neutral"
          variant="ghost"
          size="sm"
          :disabled="locked"
          @click="site.setClassPage(false)"
        >
          Take it off
        </UButton>
      </p>
    </template>
    <p
      v-else-if="course"
      class="flex flex-wrap items-center gap-x-3 text-toned"
    >
      It stands on no class page.
      <UButton
        color="neutral"
        variant="outline"
        size="sm"
        icon="i-lucide-list-plus"
        :disabled="locked"
        @click="site.setClassPage(true)"
      >
        Put it on the class page of {{ course }}
      </UButton>
    </p>
    <p
      v-else
      class="text-toned"
    >
      It stands on no class page: its course has no name yet. Name it in the line at the foot of the screen.
    </p>
  </div>
</template>
