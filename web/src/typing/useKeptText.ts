import { computed, getCurrentScope, onScopeDispose, ref, watch } from 'vue'
import { ProblemError, words } from '@/api/client'
import { notice } from '@/frame/notice'
import { forgetTyped, keepTyped, leftBehind, type Left } from './machine'
import { answered, carry, merge, type Clash } from './merge'

/** How long after a key the text is saved, in ms; keys that follow do not put it off. */
export const saveAfter = 1500

/** The same words that somebody else changed, to be decided by a person. */
export interface Question extends Clash {
  by: string // who changed them; "" is unknown
}

interface Typed {
  text: string
  base: string // what the text is a change of
}

interface Options {
  /** Under which it is kept on this machine: no two texts share one. */
  name: () => string
  /** What others see now. */
  value: () => string
  /** Who changed it last, if it was somebody else. */
  by?: () => string
  /** How many characters it may have. */
  most: number
  /** Saves a change. It throws a problem with `current` where somebody else was first. */
  save: (from: string, to: string) => Promise<unknown>
  /** It is not saved meanwhile, only kept. */
  held?: () => boolean
  /** The text was changed by somebody else: a cursor moves with its words. */
  moved?: (to: (offset: number) => number) => void
}

/** A text that is saved while it is typed. Each key is kept on this machine first;
 * what others change meanwhile is merged in. Where both changed the same words the
 * text holds theirs and `questions` mine, and everything else is saved all the same. */
export function useKeptText(o: Options) {
  const text = ref(o.value())
  const base = ref(o.value())
  const questions = ref<Question[]>([])
  /** What a closed tab, or this one before a reload, did not get saved. */
  const left = ref<Left<Typed> | null>(null)
  const dirty = computed(() => text.value !== base.value)
  const excess = computed(() => Math.max(0, [...text.value].length - o.most))
  let timer = 0
  let busy = false

  watch(o.value, follow)
  watch(
    text,
    (to, from) => {
      if (questions.value.length) questions.value = questions.value.map((q) => ({ ...q, at: carry(q.at, from, to) }))
      if (to === o.value() && !questions.value.length) forgetTyped(o.name())
    },
    { flush: 'sync' },
  )

  /** Puts another text under the hands of whoever types. */
  function put(to: string) {
    const from = text.value
    if (to === from) return
    text.value = to
    o.moved?.((offset) => carry(offset, from, to))
  }
  function meet(theirs: string, by: string) {
    const m = merge(base.value, text.value, theirs)
    put(m.text)
    base.value = theirs
    questions.value = [...questions.value, ...m.clashes.map((c) => ({ ...c, by }))]
    keepHere()
  }
  /** Takes over what somebody else made of the text. */
  function follow(now: string) {
    if (busy || now === base.value) return
    if (dirty.value) return meet(now, o.by?.() ?? '')
    base.value = now
    put(now)
  }
  function keepHere() {
    const mine = questions.value.map((q) => q.mine)
    if (dirty.value || mine.length) keepTyped(o.name(), { text: [text.value, ...mine].join('\n'), base: base.value } satisfies Typed)
    else forgetTyped(o.name())
  }
  async function save(): Promise<void> {
    clearTimeout(timer)
    timer = 0
    if (!dirty.value || busy || excess.value || o.held?.()) return
    const [from, to] = [base.value, text.value]
    busy = true
    base.value = to
    try {
      await o.save(from, to)
      busy = false
    } catch (e) {
      busy = false
      base.value = from
      if (!(e instanceof ProblemError) || typeof e.problem.current !== 'string') return notice(words(e), { fault: true })
      meet(e.problem.current, e.problem.by ?? '')
      return save()
    }
    keepHere()
    follow(o.value()) // others may have changed it meanwhile
    return save() // and more may have been typed
  }
  function typed() {
    keepHere()
    if (!timer) timer = window.setTimeout(() => void save(), saveAfter)
  }
  function answer(q: Question, chosen: 'mine' | 'theirs' | 'both') {
    questions.value = questions.value.filter((x) => x !== q)
    put(answered(text.value, q, chosen))
    keepHere()
    void save()
  }
  /** Puts what was left behind into the text, beside what others changed since. */
  function putBack() {
    const l = left.value
    if (!l) return
    left.value = null
    forgetTyped(o.name(), l.tab)
    const m = merge(l.value.base, l.value.text, text.value)
    put(m.text)
    questions.value = [...questions.value, ...m.clashes.map((c) => ({ ...c, by: '' }))]
    keepHere()
    void save()
  }
  function drop() {
    if (left.value) forgetTyped(o.name(), left.value.tab)
    left.value = null
  }

  void leftBehind<Typed>(o.name()).then((list) => {
    for (const l of list) {
      if (l.value.text === o.value() || l.value.text === l.value.base) forgetTyped(o.name(), l.tab)
      else if (!left.value && !dirty.value) left.value = l
    }
  })
  const leave = () => void save()
  const hide = () => document.visibilityState === 'hidden' && leave()
  window.addEventListener('pagehide', leave, { capture: true })
  document.addEventListener('visibilitychange', hide)
  if (getCurrentScope())
    onScopeDispose(() => {
      window.removeEventListener('pagehide', leave, { capture: true })
      document.removeEventListener('visibilitychange', hide)
      leave()
    })
  return { text, dirty, excess, questions, left, typed, save, answer, putBack, drop }
}
