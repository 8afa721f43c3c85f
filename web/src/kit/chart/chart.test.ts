import { describe, expect, it } from 'vitest';
import type { HeatCurves } from '../../model/api/types';
import { heatAt, seriesOf } from '../../views/stations/HeatCurve';

const curves = {
  case_id: 'one',
  at_c: 108,
  heat_kw: 40,
  coolant_now_l_per_min: 60,
  air_now_m3_per_s: 0.5,
  coolant: [
    { flow_l_per_min: 30, heat_kw: 30 },
    { flow_l_per_min: 90, heat_kw: 42 },
  ],
  air: [
    { flow_m3_per_s: 0.2, heat_kw: 20 },
    { flow_m3_per_s: 0.6, heat_kw: 40 },
    { flow_m3_per_s: 1.0, heat_kw: 50 },
  ],
} as HeatCurves;

describe('heat against flow', () => {
  it('is read between its points', () => {
    const air = seriesOf(curves, 'air');
    expect(air.kind).toBe('airflow');
    expect(heatAt(air, air.now)).toBeCloseTo(35);
    expect(heatAt(air, 0.8)).toBeCloseTo(45);
    const coolant = seriesOf(curves, 'coolant');
    expect(heatAt(coolant, coolant.now)).toBeCloseTo(36);
    expect(heatAt(coolant, 30)).toBeCloseTo(30);
  });
});
