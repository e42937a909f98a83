export { default as Sparkline } from './Sparkline.vue'
export { default as Mark } from './Mark.vue'
