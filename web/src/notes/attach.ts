import { onScopeDispose, ref, toValue, type MaybeRefOrGetter } from 'vue'
import { api, data, words } from '@/api/client'
import { notice } from '@/frame/notice'

/** As much as the server takes, to say so before it is sent. */
const most = 20 * 1024 * 1024

/** Hands in files, one after another. `insert` is told what to write for each. */
export function useAttach(repository: MaybeRefOrGetter<number>, insert: (markdown: string) => void) {
  const sending = ref('')
  const ended = new AbortController()
  onScopeDispose(() => ended.abort())
  async function one(file: File) {
    if (file.size > most) return notice(`${file.name} is larger than 20 MB.`, { fault: true })
    sending.value = file.name
    try {
      const got = await data(
        api.POST('/api/repositories/{repository}/attachments', {
          params: { path: { repository: toValue(repository) }, query: { name: file.name } },
          body: file as never,
          bodySerializer: (b: unknown) => b as Blob,
          headers: { 'Content-Type': 'application/octet-stream' },
          signal: ended.signal,
        }),
      )
      insert(got.markdown)
      if (got.remark) notice(`${got.name}: ${got.remark}.`)
    } catch (e) {
      if (!ended.signal.aborted) notice(`${file.name}: ${words(e)}`, { fault: true })
    }
    sending.value = ''
  }
  async function attach(files: Iterable<File>) {
    for (const file of files) await one(file)
  }
  return { sending, attach }
}
