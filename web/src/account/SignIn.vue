<script setup lang="ts">
import { ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
import AccountFields from './AccountFields.vue'
import Door from './Door.vue'
import { useMe } from './me'

const route = useRoute()
const router = useRouter()
const { me, set } = useMe()
const name = ref('')
const email = ref('')
const password = ref('')
const fault = ref('')
const busy = ref(false)

function onward() {
  const to = typeof route.query.to === 'string' && route.query.to.startsWith('/') && !route.query.to.startsWith('//') ? route.query.to : '/'
  void router.replace(to)
}
watch(me, (m) => m?.person && onward(), { immediate: true })

async function submit() {
  busy.value = true
  fault.value = ''
  try {
    const body = { email: email.value, password: password.value }
    set(
      await (me.value?.first_account
        ? data(api.POST('/api/first-account', { body: { ...body, name: name.value } }))
        : data(api.POST('/api/sign-in', { body }))),
    )
  } catch (e) {
    fault.value = words(e)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Door :title="me?.first_account ? 'Make the first account' : 'Sign in'">
    <p v-if="me?.first_account" class="soft">You become the owner of this installation: you see every repository and invite others.</p>
    <form class="form" @submit.prevent="submit">
      <AccountFields v-if="me?.first_account" v-model:name="name" v-model:email="email" v-model:password="password" />
      <template v-else>
        <label>Email address<a-input v-model:value="email" name="email" type="email" autocomplete="username" required autofocus /></label>
        <label>Password<a-input-password v-model:value="password" name="password" autocomplete="current-password" required /></label>
      </template>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <a-button type="primary" html-type="submit" :loading="busy">{{ me?.first_account ? 'Make the account' : 'Sign in' }}</a-button>
      <p v-if="!me?.first_account" class="soft">No account yet? Open the invitation link that a keeper of a repository gave you.</p>
    </form>
  </Door>
</template>

<style scoped>
.form {
  display: grid;
  gap: 14px;
}
label {
  display: grid;
  gap: 4px;
}
</style>
