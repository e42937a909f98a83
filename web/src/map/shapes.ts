/** The shapes that stand on the spine, in a box of 12 by 12 that begins at x; each
 * is told apart without its colour. */
export const shapes = {
  start: (x: number) => `M${x + 4} 1 A5 5 0 0 1 ${x + 4} 11 Z`,
  test: (x: number) => `M${x + 2} 2 H${x + 10} V10 H${x + 2} Z`,
  tagged: (x: number) => `M${x + 6} 1 L${x + 11} 6 L${x + 6} 11 L${x + 1} 6 Z`,
  written: (x: number) => `M${x + 6} 1 V11 M${x + 1.7} 3.5 L${x + 10.3} 8.5 M${x + 10.3} 3.5 L${x + 1.7} 8.5`,
  plan: (x: number) => `M${x + 1} 4 H${x + 11} V8.5 H${x + 1} Z`,
  half: (x: number) => `M${x + 1} 4 H${x + 6} V8.5 H${x + 1} Z`,
  undecided: (x: number) => `M${x + 1.5} 4.5 H${x + 10.5} V8 H${x + 1.5} Z`,
  aside: (x: number) => `M${x + 1} 6.25 H${x + 11}`,
  read: (x: number) => `M${x + 2} 6.5 L${x + 5} 9.5 L${x + 10} 3`,
  leans: (x: number) => `M${x + 2} 1.5 L${x + 10} 6 L${x + 2} 10.5 Z`,
  used: (x: number) => `M${x + 10} 1.5 L${x + 2} 6 L${x + 10} 10.5 Z`,
  circle: (x: number) => `M${x + 9.6} 3.2 A4.4 4.4 0 1 0 ${x + 10.4} 6.4 M${x + 10.4} 1 L${x + 9.9} 3.6 L${x + 7.4} 3.1`,
}
export type Shape = keyof typeof shapes
