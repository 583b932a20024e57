<script setup lang="ts">
definePageMeta({ middleware: to => navigateTo(`${to.path.replace(/\/$/, '')}/pages`) })
</script>

<template>
  <div />
</template>
