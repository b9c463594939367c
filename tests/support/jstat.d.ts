/** What is used of jstat, which brings no types. */
declare module 'jstat' {
  interface Sampled {
    sample: (...parameters: number[]) => number;
    cdf: (x: number, ...parameters: number[]) => number;
  }
  const jstat: { readonly normal: Sampled; readonly uniform: Sampled; readonly triangular: Sampled; setRandom: (random: () => number) => void };
  export default jstat;
}
