<script setup lang="ts">
const notices = useNotices()
</script>

<template>
  <div
    class="fixed bottom-16 right-4 z-50 flex w-[26rem] max-w-[calc(100vw-2rem)] flex-col gap-3"
    role="alert"
    aria-live="assertive"
  >
    <section
      v-for="{ id, trouble } in notices.troubles"
      :key="id"
      class="trouble border-l-4 bg-default p-4 pr-12 shadow-lg"
      :data-trouble="trouble.code"
    >
      <p class="font-bold">
        {{ trouble.message }}
      </p>
      <p class="mt-1 text-sm text-toned">
        {{ trouble.safe }}
      </p>
      <p class="mt-1 text-sm">
        {{ trouble.next }}
      </p>
      <UButton
        class="absolute right-2 top-2"
        icon="i-lucide-x"
        color="neutral"
        variant="ghost"
        aria-label="Put this message away"
        @click="notices.putAway(id)"
      />
    </section>
  </div>
</template>

<style scoped>
.trouble {
  position: relative;
  border-left-color: var(--taking);
  border-top: 1px solid var(--rule-fine);
  border-bottom: 1px solid var(--rule-fine);
  border-right: 1px solid var(--rule-fine);
}
</style>
