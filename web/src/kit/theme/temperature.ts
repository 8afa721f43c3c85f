/** The temperature tone, from slate through straw to ember. Used for temperature and nothing else. */

import { scaleLinear } from 'd3-scale';

const stops = [
  { at: 20, color: '#5d7488' },
  { at: 60, color: '#829389' },
  { at: 85, color: '#d3ae55' },
  { at: 105, color: '#cf6f33' },
  { at: 130, color: '#a82424' },
] as const;

const scale = scaleLinear<string>()
  .domain(stops.map((stop) => stop.at))
  .range(stops.map((stop) => stop.color))
  .clamp(true);

/** Colour of a temperature in °C; of still, unknown coolant where there is none. */
export function tone(celsius: number | null): string {
  return celsius === null ? scale(130) : scale(celsius);
}

export const toneStops = stops;
