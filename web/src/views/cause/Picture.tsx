import type { ReactNode } from 'react';
import { Box, Svg } from '../../kit/primitives';
import { Line, Path } from '../../kit/shapes';
import { blades, C, core, gun, meter, P, R, T, thermometer, water } from './drawing';

/** Drawn for each card: what is held where. */
const DRAWN: Record<string, ReactNode> = {
  thermometer: (
    <>
      <P d="M20 95 h60 v-40 h30" />
      <P d="M110 42 q50 0 60 30 q8 28 60 28" />
      <P d="M110 66 q30 2 38 22 q10 32 82 34" />
      {thermometer(118, 4)}
      <T x={140} y={30}>
        outlet of the engine
      </T>
    </>
  ),
  filler: (
    <>
      {core(60, 60, 190, 56)}
      <R x={60} y={36} w={190} h={24} />
      {water('M62 46 h186 v13 h-186 z')}
      <R x={138} y={16} w={34} h={22} />
      {water('M140 30 h30 v7 h-30 z')}
      <P d="M104 8 q28 -8 50 4" />
      <T x={182} y={26}>
        up to the neck
      </T>
    </>
  ),
  bottle: (
    <>
      <P d="M110 20 h40 v12 q22 4 22 24 v50 q0 10 -10 10 h-64 q-10 0 -10 -10 v-50 q0 -20 22 -24 z" />
      {water('M90 78 h80 v28 q0 8 -8 8 h-64 q-8 0 -8 -8 z')}
      <Line x1="172" x2="190" y1="62" y2="62" stroke="ink" strokeWidth="1.6" />
      <Line x1="172" x2="190" y1="92" y2="92" stroke="ink" strokeWidth="1.6" />
      <T x={196} y={66}>
        upper mark
      </T>
      <T x={196} y={96}>
        lower mark
      </T>
    </>
  ),
  torch: (
    <>
      <R x={30} y={50} w={70} h={26} r={6} />
      <R x={96} y={44} w={22} h={38} r={4} />
      <Path d="M118 50 L250 18 V112 L118 76 z" fill="accentSoft" stroke="none" />
      <P d="M200 96 q10 -18 0 -30 q-10 12 0 30" />
      <P d="M232 104 q8 -14 0 -24 q-8 10 0 24" />
    </>
  ),
  core_gap: (
    <>
      <R x={86} y={14} w={16} h={100} />
      {core(136, 14, 24, 100)}
      <P d="M108 30 q8 6 16 0 M108 60 q10 8 18 -2 M110 92 q6 6 14 0" />
      <T x={44} y={126}>
        condenser
      </T>
      <T x={140} y={126}>
        core
      </T>
      <Path d="M270 64 L172 44 V86 z" fill="accentSoft" stroke="none" />
      <R x={262} y={52} w={34} h={24} r={5} />
    </>
  ),
  dipstick: (
    <>
      <P d="M40 30 q-14 0 -14 14 q0 14 14 14 q14 0 14 -14 h200 v8 h24" />
      <Line x1="200" x2="200" y1="38" y2="58" stroke="ink" strokeWidth="1.6" />
      <Line x1="240" x2="240" y1="38" y2="58" stroke="ink" strokeWidth="1.6" />
      <R x={150} y={78} w={120} h={40} />
      <Path d="M170 98 q40 -18 80 0 q-40 14 -80 0" fill="sunken" stroke="ink" strokeWidth="1.4" />
      <T x={60} y={102}>
        wipe on white
      </T>
    </>
  ),
  exhaust: (
    <>
      <R x={20} y={58} w={110} h={24} r={10} />
      <P d="M146 62 q20 -18 40 0 t40 0 t40 -10" />
      <P d="M146 80 q24 16 48 0 t48 0" />
    </>
  ),
  hoses: (
    <>
      {core(176, 14, 100, 100)}
      <R x={24} y={30} w={70} h={76} />
      <P d="M94 40 q40 -18 82 -14 M94 54 q40 -16 82 -12" />
      <P d="M94 92 q40 14 82 12 M94 104 q40 18 82 16" />
      <T x={112} y={24}>
        upper
      </T>
      <T x={112} y={90}>
        lower
      </T>
      <P d="M128 62 q6 -16 14 -14 M136 66 q6 -16 14 -12 M144 68 q6 -14 12 -10" />
    </>
  ),
  heater: (
    <>
      <R x={30} y={20} w={240} h={40} r={8} />
      {[60, 110, 160, 210].map((x) => (
        <R key={x} x={x} y={30} w={34} h={18} />
      ))}
      <P d="M76 72 q10 16 0 34 M126 72 q10 16 0 34 M176 72 q10 16 0 34 M226 72 q10 16 0 34" />
    </>
  ),
  infrared: (
    <>
      {core(30, 14, 130, 100)}
      {gun(230, 44)}
      <T x={40} y={126}>
        hot side
      </T>
      <T x={110} y={126}>
        cold side
      </T>
    </>
  ),
  refractometer: (
    <>
      <R x={50} y={48} w={150} h={30} r={14} />
      <P d="M200 52 h40 v22 h-40 M50 44 l46 -16" />
      <Path d="M80 12 q8 12 0 18 q-8 -6 0 -18" fill="accentSoft" stroke="ink" strokeWidth="1.4" />
      <T x={70} y={104}>
        one drop, lid down
      </T>
    </>
  ),
  cap: (
    <>
      <C x={110} y={64} r={46} />
      <C x={110} y={64} r={30} />
      <T x={90} y={69}>
        mark
      </T>
      <P d="M64 64 h-16 M156 64 h16" />
      <P d="M220 40 h60 v10 h-14 v26 h-32 v-26 h-14 z M240 76 v14 h20 v-14" />
    </>
  ),
  cap_tester: (
    <>
      <R x={40} y={46} w={120} h={26} r={12} />
      <P d="M160 59 h28 M188 44 h36 v30 h-36 z M206 44 v-16 h-24" />
      <C x={100} y={28} r={18} />
      <P d="M100 28 l8 -10" />
      <P d="M228 40 h40 v10 h-8 v20 h-24 v-20 h-8 z" />
    </>
  ),
  pump: (
    <>
      {core(170, 62, 120, 54)}
      <R x={170} y={44} w={120} h={18} />
      <P d="M226 44 v-14 h-60 q-20 0 -30 10" />
      <C x={200} y={18} r={14} />
      <P d="M200 18 l7 -7" />
      <R x={40} y={44} w={92} h={20} r={8} />
      <P d="M40 54 h-14 M26 42 v24" />
    </>
  ),
  funnel: (
    <>
      <P d="M110 12 h100 l-34 44 v22 h-32 v-22 z" />
      {water('M126 32 h68 l-22 26 h-24 z')}
      <R x={60} y={92} w={200} h={26} />
      <P d="M144 78 v14 M176 78 v14" />
      <C x={154} y={40} r={3} />
      <C x={166} y={28} r={4} />
      <C x={150} y={20} r={3} />
    </>
  ),
  pot: (
    <>
      <P d="M70 42 h160 v64 q0 10 -10 10 h-140 q-10 0 -10 -10 z M70 60 h-18 M230 60 h18" />
      {water('M72 56 h156 v48 q0 10 -10 10 h-136 q-10 0 -10 -10 z')}
      <P d="M120 10 v56" />
      <C x={120} y={80} r={14} full />
      {thermometer(182, 22)}
    </>
  ),
  fans: (
    <>
      {core(30, 12, 250, 104)}
      {blades(96, 64, 42)}
      {blades(214, 64, 42)}
    </>
  ),
  paper: (
    <>
      {core(40, 14, 110, 100)}
      <P d="M156 20 q14 30 2 56 q-6 20 6 34 l44 -4 q-10 -20 -2 -40 q8 -30 -2 -48 z" />
      <P d="M290 40 h-60 M242 34 l-12 6 l12 6 M290 84 h-60 M242 78 l-12 6 l12 6" />
    </>
  ),
  meter: (
    <>
      <R x={60} y={18} w={76} h={32} />
      <P d="M78 50 v30 M118 50 v30 M84 36 q14 -12 28 0" />
      <P d="M78 84 q4 34 60 30 q50 -4 62 -22 M118 84 q10 22 40 16 q24 -4 42 -18" />
      {meter(200, 30, '0.0 Ω')}
    </>
  ),
  relay: (
    <>
      <R x={40} y={20} w={84} h={60} />
      <P d="M54 80 v16 M72 80 v16 M92 80 v16 M110 80 v16" />
      <P d="M56 50 q4 -10 8 0 t8 0 t8 0 M92 60 l18 -14 M110 46 v-6" />
      {meter(216, 24, '0.2 Ω')}
      <P d="M92 98 q10 22 70 14 q40 -4 54 -26 M110 98 q20 12 60 0 q30 -8 46 -30" />
    </>
  ),
  fused_lead: (
    <>
      <R x={24} y={50} w={74} h={52} />
      <P d="M40 50 v-8 h10 v8 M72 50 v-8 h10 v8" />
      <T x={40} y={80}>
        12 V
      </T>
      <P d="M78 40 q20 -24 54 -16" />
      <R x={132} y={14} w={40} h={18} />
      <T x={138} y={28}>
        fuse
      </T>
      <P d="M172 24 q24 0 36 24 M46 40 q-10 -30 60 -36 q90 -6 110 46" />
      {blades(238, 76, 42)}
    </>
  ),
  meter_fan: (
    <>
      {blades(76, 64, 46)}
      <R x={120} y={56} w={28} h={16} />
      {meter(214, 28, '13.5 V')}
      <P d="M148 60 q24 -30 66 -14 M148 68 q30 34 66 14" />
    </>
  ),
  blade: (
    <>
      {blades(150, 64, 52)}
      <P d="M214 30 q20 30 6 62 M226 84 l-6 10 l-10 -6" />
    </>
  ),
  pulley: (
    <>
      <C x={96} y={64} r={40} />
      <C x={96} y={64} r={8} full />
      <C x={226} y={74} r={24} />
      <P d="M92 24 L224 50 M100 104 L228 98" />
      <P d="M44 40 q-12 24 0 48 M150 40 v-18 M150 88 v18" />
      <P d="M150 22 l-6 8 M150 22 l6 8 M150 106 l-6 -8 M150 106 l6 -8" />
    </>
  ),
  block_tester: (
    <>
      <P d="M130 30 h30 v60 q0 12 -15 12 q-15 0 -15 -12 z" />
      {water('M131 64 h28 v26 q0 10 -14 10 q-14 0 -14 -10 z')}
      <C x={145} y={18} r={13} />
      <P d="M145 102 v12 M110 116 h70" />
      <T x={176} y={70}>
        blue: no gas
      </T>
      <T x={176} y={90}>
        yellow: gas
      </T>
    </>
  ),
  plug: (
    <>
      {[40, 110, 180, 250].map((x) => (
        <g key={x}>
          <R x={x} y={16} w={14} h={34} r={4} />
          <R x={x - 5} y={50} w={24} h={16} />
          <P d={`M${x + 2} 66 v26 h10 v-26 M${x + 12} 92 v8 h-8`} />
        </g>
      ))}
    </>
  ),
  timing_light: (
    <>
      <C x={86} y={66} r={46} />
      <P d="M86 66 l30 -34" />
      <P d="M112 16 l6 14" />
      <P d="M290 44 h-54 v18 h20 l6 30 h16 l-4 -30 h16 z" />
      <Path d="M236 53 L126 32" stroke="tight" strokeWidth="2" strokeDasharray="5 5" />
    </>
  ),
  wheel: (
    <>
      <C x={84} y={66} r={50} />
      <C x={84} y={66} r={30} full />
      <C x={84} y={66} r={6} />
      <P d="M190 40 h70 M246 32 l14 8 l-14 8 M20 118 h290" />
      <P d="M146 84 q10 -10 0 -20 q-10 -10 0 -20 M164 84 q10 -10 0 -20 q-10 -10 0 -20" />
      <T x={196} y={28}>
        push
      </T>
    </>
  ),
  ambient: (
    <>
      {core(120, 14, 90, 100)}
      {thermometer(92, 30)}
      {thermometer(270, 30)}
      <P d="M40 30 h36 M66 24 l10 6 l-10 6 M40 64 h36 M66 58 l10 6 l-10 6 M40 98 h36 M66 92 l10 6 l-10 6" />
      <T x={226} y={120}>
        in the open
      </T>
    </>
  ),
};

export const pictures = Object.keys(DRAWN);

export function Picture({ name }: { readonly name: string }) {
  const drawn = DRAWN[name];
  if (!drawn) return null;
  return (
    <Box border="1px solid" borderColor="rule" borderRadius="soft" marginTop="2">
      <Svg viewBox="0 0 320 132" width="100%" maxHeight="150px" aria-hidden="true">
        {drawn}
      </Svg>
    </Box>
  );
}
