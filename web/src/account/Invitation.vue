<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, data, words } from '@/api/client'
import AccountFields from './AccountFields.vue'
import Door from './Door.vue'
import { useMe } from './me'

const route = useRoute()
const router = useRouter()
const { me, set } = useMe()
const token = String(route.params.token)
const { data: invitation, error } = useQuery({
  queryKey: ['invitation', token],
  queryFn: ({ signal }) => data(api.GET('/api/invitations/{token}', { params: { path: { token } }, signal })),
})
const name = ref('')
const email = ref('')
const password = ref('')
const fault = ref('')
const busy = ref(false)

async function accept() {
  busy.value = true
  fault.value = ''
  try {
    const account = me.value?.person ? undefined : { name: name.value, email: email.value, password: password.value }
    set(await data(api.POST('/api/invitations/{token}', { params: { path: { token } }, body: { account } })))
    void router.replace(invitation.value?.repository_id ? `/r/${invitation.value.repository_id}` : '/')
  } catch (e) {
    fault.value = words(e)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Door v-if="error" title="This invitation does not open">
    <p>{{ words(error) }}</p>
    <p><router-link to="/">To the shelf</router-link></p>
  </Door>
  <Door v-else-if="invitation" :title="`Join ${invitation.repository}`">
    <p class="prose">{{ invitation.invited_by }} invites you as a {{ invitation.role }}.</p>
    <form class="form" @submit.prevent="accept">
      <AccountFields v-if="!me?.person" v-model:name="name" v-model:email="email" v-model:password="password" />
      <p v-else>You are signed in as {{ me.person.name }}.</p>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <a-button type="primary" html-type="submit" :loading="busy">{{ me?.person ? 'Join' : 'Make an account and join' }}</a-button>
      <p v-if="!me?.person" class="soft">
        Have an account? <router-link :to="{ name: 'sign-in', query: { to: route.fullPath } }">Sign in</router-link> first.
      </p>
    </form>
  </Door>
</template>

<style scoped>
.form {
  display: grid;
  gap: 14px;
}
</style>
