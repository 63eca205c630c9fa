<script setup lang="ts">
definePageMeta({ redirect: '/desk' })
</script>

<template><div /></template>
