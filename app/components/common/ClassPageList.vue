<script setup lang="ts">
/** The class pages of the site: each with its link, for whoever asks where all the lessons are. */
const classPages = useClassPages()
onMounted(() => void classPages.refresh())
</script>

<template>
  <section
    v-if="classPages.pages.length"
    data-part="class-pages"
  >
    <h2 class="text-xl font-semibold">Class pages</h2>
    <ul class="mt-3 border border-(--rule-fine) bg-default">
      <li
        v-for="page in classPages.pages"
        :key="page.id"
        class="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-(--rule-fine) px-4 py-2 last:border-b-0"
      >
        <span class="serif text-base font-semibold">{{ page.name }}</span>
        <span
          v-if="page.author"
          class="text-sm text-toned"
          >{{ page.author }}</span
        >
        <SharedLink
          class="ml-auto text-sm"
          :link="page.link"
          :of="`the class page ${page.name}`"
        />
        <UButton
          color="neutral"
          variant="ghost"
          size="sm"
          icon="i-lucide-pencil"
          :aria-label="`Rename the class page ${page.name}`"
          @click="classPages.rename(page)"
        />
      </li>
    </ul>
  </section>
</template>
