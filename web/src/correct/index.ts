export { default as Correct } from './Correct.vue'
export { default as Corrections } from './Corrections.vue'
