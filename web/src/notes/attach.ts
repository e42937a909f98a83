import { nextTick, onScopeDispose, ref, toValue, type MaybeRefOrGetter, type Ref } from 'vue'
import { api, data, words } from '@/api/client'
import { notice } from '@/frame/notice'

/** As much as the server takes, to say so before it is sent. */
const most = 20 * 1024 * 1024

/** Hands in files, one after another. `insert` is told what to write for each. */
function useAttach(repository: MaybeRefOrGetter<number>, insert: (markdown: string) => void) {
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

/** Files that are pasted into, dropped on or chosen for a field; what leads to them
 * is written at its cursor. */
export function useAttaching(repository: MaybeRefOrGetter<number>, text: Ref<string>, area: () => HTMLTextAreaElement | null | undefined) {
  const { sending, attach } = useAttach(repository, (markdown) => {
    const field = area()
    const at = field?.selectionStart ?? text.value.length
    const before = text.value.slice(0, at)
    const piece = (before && !/\s$/.test(before) ? ' ' : '') + markdown
    text.value = before + piece + text.value.slice(field?.selectionEnd ?? at)
    void nextTick(() => field?.setSelectionRange(at + piece.length, at + piece.length))
  })
  function take(e: Event, files: FileList | null | undefined) {
    if (!files?.length) return
    e.preventDefault()
    void attach([...files])
  }
  return {
    sending,
    // a piece of a table is copied as words and as a picture: the words are meant
    paste: (e: ClipboardEvent) => e.clipboardData?.types.includes('text/plain') || take(e, e.clipboardData?.files),
    drop: (e: DragEvent) => take(e, e.dataTransfer?.files),
    choose: (e: Event) => {
      const input = e.target as HTMLInputElement
      void attach([...(input.files ?? [])])
      input.value = ''
    },
  }
}
