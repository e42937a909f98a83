<script setup lang="ts">
const name = defineModel<string>('name', { required: true })
const email = defineModel<string>('email', { required: true })
const password = defineModel<string>('password', { required: true })
</script>

<template>
  <label>
    Your name
    <a-input v-model:value="name" name="name" autocomplete="name" required autofocus />
  </label>
  <label>
    Email address
    <a-input v-model:value="email" name="email" type="email" autocomplete="username" required />
  </label>
  <label>
    Password, ten characters at least
    <a-input-password v-model:value="password" name="password" autocomplete="new-password" minlength="10" required />
  </label>
</template>

<style scoped>
label {
  display: grid;
  gap: 4px;
}
</style>
