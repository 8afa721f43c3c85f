import { create } from 'zustand';
import type { Moment } from './course';

/** The moment under the play head, for the ladder; null when nothing is driven. */
export const useMoment = create<{ moment: Moment | null }>()(() => ({ moment: null }));

export const showMoment = (moment: Moment | null) => useMoment.setState({ moment });
