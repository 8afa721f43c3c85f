/** What a core does with the heat: behind a condenser and in next to no air it takes some up. */

/** How much [kW], and the word for it; what is too little to be printed counts as none. */
export function shedding(kw: number): { readonly kw: number; readonly said: 'shed' | 'taken up' } {
  return kw <= -0.05 ? { kw: -kw, said: 'taken up' } : { kw: Math.max(kw, 0), said: 'shed' };
}
