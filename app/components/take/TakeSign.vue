<script setup lang="ts">
/** A sign over the board that something is wrong with the running take. It cannot be overlooked, and stops nothing. */
defineProps<{ icon: string; says: string; mend: string }>()
</script>

<template>
  <div
    class="flex items-center gap-3 border-2 border-(--taking) bg-default px-3 py-1 text-sm"
    role="alert"
  >
    <UIcon
      :name="icon"
      class="size-6 shrink-0 text-(--taking)"
    />
    <p class="min-h-11 grow content-center">
      <strong class="text-base">{{ says }}</strong> {{ mend }}
    </p>
    <slot />
  </div>
</template>
