/** The stations along the loop and the fields that each one edits. */

import type { Build } from '../api/types';

export type StationName = 'engine' | 'coolant' | 'radiator' | 'air' | 'flow' | 'thermostat' | 'cap';

export interface Group {
  readonly title: string;
  readonly fields: readonly string[];
}

export interface StationSpec {
  readonly title: string;
  readonly caution: string | null;
  readonly groups: readonly Group[];
}

export const stations: Record<StationName, StationSpec> = {
  engine: {
    title: 'Engine and vehicle',
    caution: null,
    groups: [
      {
        title: 'Engine',
        fields: [
          'engine/kind',
          'engine/fuel',
          'engine/displacement_l',
          'engine/rated_power_kw',
          'engine/rated_rpm',
          'engine/stroke_mm',
          'engine/tune_factor',
          'engine/heat_school',
          'engine/measured_by',
          'engine/measured_power_kw',
          'engine/measured_rpm',
          'engine/measured_flow_l_per_min',
          'engine/measured_rise_k',
          'engine/measured_fuel_kg_per_h',
          'engine/cooled_turbo',
          'engine/oil_cooler',
          'engine/oil_cooler_share',
          'engine/egr_cooler',
          'engine/egr_cooler_share',
          'engine/electrical_load_w',
          'engine/metal_heat_kj_per_k',
        ],
      },
      { title: 'Gearbox', fields: ['engine/gearbox_cooler', 'engine/gearbox_efficiency'] },
      {
        title: 'Vehicle',
        fields: [
          'vehicle/mass_kg',
          'vehicle/drag_area_m2',
          'vehicle/rolling_resistance',
          'vehicle/driveline_efficiency',
          'vehicle/trailer_mass_kg',
          'vehicle/trailer_drag_area_m2',
          'vehicle/rolling_radius_mm',
        ],
      },
    ],
  },
  coolant: {
    title: 'Coolant',
    caution:
      'Glycol tastes sweet and kills pets and children: catch it, label it, dispose of it as local rules say.',
    groups: [
      {
        title: 'Coolant',
        fields: [
          'coolant/kind',
          'coolant/glycol_vol_share',
          'coolant/residual_water_share',
          'coolant/volume_l',
        ],
      },
    ],
  },
  radiator: {
    title: 'Radiator core',
    caution: null,
    groups: [
      {
        title: 'Core',
        fields: [
          'radiator/width_mm',
          'radiator/height_mm',
          'radiator/depth_mm',
          'radiator/rows',
          'radiator/flow',
          'radiator/passes',
          'radiator/pass_layout',
          'radiator/material',
          'radiator/core_type',
        ],
      },
      {
        title: 'Room in the car',
        fields: ['vehicle/space_width_mm', 'vehicle/space_height_mm', 'vehicle/space_depth_mm'],
      },
      {
        title: 'Condition',
        fields: [
          'radiator/condition',
          'radiator/blocked_tubes_share',
          'radiator/blocked_face_share',
          'radiator/scale_mm',
        ],
      },
      {
        title: 'Fins and tubes',
        fields: [
          'radiator/fin_pitch_mm',
          'radiator/fin_height_mm',
          'radiator/fin_thickness_mm',
          'radiator/louvre_pitch_mm',
          'radiator/louvre_length_mm',
          'radiator/louvre_angle_deg',
          'radiator/tube_height_mm',
          'radiator/tube_wall_mm',
        ],
      },
      {
        title: 'Test of this core',
        fields: [
          'radiator/test_point',
          'radiator/test_heat_kw',
          'radiator/test_air_m_per_s',
          'radiator/test_coolant_l_per_min',
          'radiator/test_difference_k',
          'radiator/test_air_c',
          'radiator/test_coolant',
        ],
      },
    ],
  },
  air: {
    title: 'Air: grille, fan, shroud',
    caution:
      'Fans start by themselves. Disconnect the battery before you touch a fan or its wiring.',
    groups: [
      {
        title: 'Fan',
        fields: [
          'air/fan/kind',
          'air/fan/fans',
          'air/shroud',
          'air/shroud_cover_share',
          'air/flaps',
          'air/fan/mount',
          'air/fan/diameter_mm',
          'air/fan/curve',
          'air/fan/electric_power_w',
          'air/fan/staging',
          'air/fan/slow_speed_share',
          'air/fan/voltage_v',
          'air/fan/test_voltage_v',
          'air/fan/curve_density_kg_per_m3',
          'air/fan/curve_rpm',
          'air/fan/pulley_ratio',
          'air/fan/engaged_share',
          'air/fan/disengaged_share',
          'air/fan/shaft_power_kw',
          'air/blade_recirculation_share',
        ],
      },
      {
        title: 'Front end',
        fields: [
          'air/ram_coefficient',
          'air/front_loss_coefficient',
          'air/exit_loss_coefficient',
          'air/front_recirculation_share',
        ],
      },
      {
        title: 'In front of the core',
        fields: [
          'air/condenser',
          'air/condenser_heat_kw',
          'air/compressor_kw',
          'air/condenser_loss_coefficient',
          'air/condenser_cover_share',
          'air/charge_cooler',
          'air/charge_cooler_share',
          'air/charge_cooler_loss_coefficient',
          'air/charge_cooler_cover_share',
        ],
      },
    ],
  },
  flow: {
    title: 'Pump and hoses',
    caution: null,
    groups: [
      {
        title: 'Pump',
        fields: [
          'circuit/pump_drive',
          'circuit/siphon_height_mm',
          'circuit/shut_off_kpa',
          'circuit/run_out_l_per_min',
          'circuit/pump_test_rpm',
          'circuit/belt_ratio',
          'circuit/electric_rpm',
          'circuit/electric_pump_w',
          'circuit/npsh_required_m',
        ],
      },
      {
        title: 'Passages',
        fields: [
          'circuit/jacket_drop_kpa',
          'circuit/bypass',
          'circuit/bypass_drop_kpa',
          'circuit/bypass_cracks_kpa',
          'circuit/heater',
          'circuit/heater_drop_kpa',
          'circuit/heater_effectiveness',
          'circuit/hose_bore_mm',
          'circuit/hose_length_mm',
          'circuit/hose_bends',
        ],
      },
    ],
  },
  thermostat: {
    title: 'Thermostat and fan switch',
    caution: null,
    groups: [
      {
        title: 'Thermostat',
        fields: [
          'thermostat/position',
          'thermostat/opens_c',
          'thermostat/span_k',
          'thermostat/drop_kpa',
          'thermostat/leak_share',
        ],
      },
      {
        title: 'Fan switch',
        fields: [
          'fan_switch/on_c',
          'fan_switch/off_c',
          'fan_switch/full_on_c',
          'fan_switch/full_off_c',
        ],
      },
    ],
  },
  cap: {
    title: 'Cap and limits',
    caution:
      'Never open a hot cap or a hot system: scalding coolant. Never test above the rating of the cap or of the weakest part.',
    groups: [
      {
        title: 'Cap',
        fields: ['cap/pressure_kpa', 'cap/position', 'cap/weakest_part_kpa', 'cap/bottle_l'],
      },
      { title: 'Limits', fields: ['limits/top_hose_c', 'limits/boiling_margin_k'] },
    ],
  },
};

export const stationNames = Object.keys(stations) as StationName[];

export const caseFields = [
  'kind',
  'duration_s',
  'start_c',
  'speed_km_h',
  'engine_speed_by',
  'engine_rpm',
  'overall_ratio',
  'load',
  'brake_power_kw',
  'gradient_share',
  'acceleration_m_per_s2',
  'headwind_km_h',
  'tows',
  'shaft_work_kw',
  'air_conditioning',
  'heater',
  'ambient_c',
  'altitude_m',
] as const;

/** The station where a field of the variant is edited. */
export function stationOf(path: string): StationName | null {
  const rest = path.split('/').slice(3).join('/');
  return (
    stationNames.find((name) => stations[name].groups.some((g) => g.fields.includes(rest))) ?? null
  );
}

export function caseIndex(build: Build, id: string): number {
  return build.cases.findIndex((entry) => entry.id === id);
}
