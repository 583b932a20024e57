<script setup lang="ts">
const notices = useNotices()
const text = ref('')
watch(
  () => notices.prompt,
  () => {
    text.value = notices.prompt?.field?.value ?? ''
  },
)
const open = computed({
  get: () => notices.prompt !== null,
  set: v => {
    if (!v) notices.prompt?.answer(null)
  },
})
</script>

<template>
  <UModal
    v-model:open="open"
    :title="notices.prompt?.title"
    :description="notices.prompt?.text"
  >
    <template #body>
      <form
        class="flex items-end justify-end gap-3"
        @submit.prevent="notices.prompt?.answer(text)"
      >
        <UFormField
          v-if="notices.prompt?.field"
          :label="notices.prompt.field.label"
          class="grow"
        >
          <UInput
            v-model="text"
            :maxlength="2000"
            :type="notices.prompt.field.secret ? 'password' : 'text'"
            autofocus
            class="w-full"
            :name="notices.prompt.field.secret ? 'password' : 'line'"
          />
        </UFormField>
        <UButton
          color="neutral"
          variant="outline"
          @click="notices.prompt?.answer(null)"
        >
          {{ notices.prompt?.decline }}
        </UButton>
        <UButton
          v-if="notices.prompt?.other"
          color="neutral"
          variant="outline"
          @click="notices.prompt?.answer('other')"
        >
          {{ notices.prompt.other }}
        </UButton>
        <UButton type="submit">
          {{ notices.prompt?.accept }}
        </UButton>
      </form>
    </template>
  </UModal>
</template>
