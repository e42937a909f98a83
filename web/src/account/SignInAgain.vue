<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { api, data, words, type Schemas } from '@/api/client'
import Dialog from '@/frame/Dialog.vue'
import { useMe } from './me'
import { signedInAgain } from './session'

/** The session ended while somebody works: they sign in on the spot, and nothing that
 * they typed is lost. */
const props = defineProps<{ person: NonNullable<Schemas['Me']['person']> }>()
const queries = useQueryClient()
const { set } = useMe()
const email = ref(props.person.email)
const password = ref('')
const fault = ref('')
const busy = ref(false)
async function signIn() {
  busy.value = true
  fault.value = ''
  try {
    const me = await data(api.POST('/api/sign-in', { body: { email: email.value, password: password.value } }))
    if (me.person?.id !== props.person.id) return location.reload() // another's page
    set(me)
    signedInAgain()
    void queries.invalidateQueries()
  } catch (e) {
    fault.value = words(e)
  } finally {
    busy.value = false
  }
}
/** Whoever does not want to sign in again goes to the door. */
const leave = () => location.reload()
</script>

<template>
  <Dialog title="Your session has ended" ok="Sign in" :disabled="!password" :busy="busy" @close="leave" @save="signIn">
    <p>Sign in to go on where you are. What you typed is kept on this machine and saved once you are signed in.</p>
    <form class="form" @submit.prevent="signIn">
      <label>Email address<a-input v-model:value="email" name="again-email" type="email" autocomplete="username" required /></label>
      <label
        >Password<a-input-password v-model:value="password" name="again-password" autocomplete="current-password" autofocus required
      /></label>
      <p v-if="fault" class="fault" role="alert">{{ fault }}</p>
      <button type="submit" hidden />
    </form>
  </Dialog>
</template>

<style scoped>
.form,
label {
  display: grid;
  gap: 10px;
}
label {
  gap: 4px;
}
p {
  margin-bottom: 10px;
}
</style>
