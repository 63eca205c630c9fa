<script setup lang="ts">
import { Toaster } from 'vue-sonner'
import 'vue-sonner/style.css'
import { toastHostMounted } from '~/lib/toast'

onMounted(toastHostMounted)
</script>

<template>
  <Toaster position="bottom-center" :toast-options="{ unstyled: true, class: 'deft-toast' }" />
</template>
