import { labOf } from '../catalog/families';

export interface Thread {
  readonly code: string;
  readonly name: string;
  readonly hex: string;
}

const thread = (code: string, name: string, hex: string): Thread => ({ code, name, hex });

/** A made-up palette of embroidery threads. */
export const THREADS: readonly Thread[] = [
  thread('t01', 'Chalk', '#ffffff'),
  thread('t02', 'Sailcloth', '#f3ead6'),
  thread('t03', 'Sand', '#d8c39a'),
  thread('t04', 'Hemp', '#b39a6b'),
  thread('t05', 'Tarred rope', '#5a4632'),
  thread('t06', 'Peat', '#33261c'),
  thread('t07', 'Coal', '#1a1c20'),
  thread('t08', 'Slate', '#4c5560'),
  thread('t09', 'Mist', '#a9b0b6'),
  thread('t10', 'Pewter', '#7b8288'),
  thread('t11', 'Oxblood', '#6f1f2b'),
  thread('t12', 'Lifebuoy', '#d2342a'),
  thread('t13', 'Brick', '#a5402d'),
  thread('t14', 'Rust', '#b9622f'),
  thread('t15', 'Buoy orange', '#ef7a24'),
  thread('t16', 'Lamp', '#f6b73c'),
  thread('t17', 'Gorse', '#e3c12f'),
  thread('t18', 'Primrose', '#f4e38a'),
  thread('t19', 'Reed', '#a9b26a'),
  thread('t20', 'Weir green', '#3f8b4d'),
  thread('t21', 'Willow', '#6f9160'),
  thread('t22', 'Kelp', '#4c5a33'),
  thread('t23', 'Bottle', '#1f4d38'),
  thread('t24', 'Verdigris', '#2f8077'),
  thread('t25', 'Eddy', '#7fc0b8'),
  thread('t26', 'Estuary', '#28454d'),
  thread('t27', 'Sky', '#9cc7e6'),
  thread('t28', 'Skiff blue', '#4a80b0'),
  thread('t29', 'Signal blue', '#1f5fae'),
  thread('t30', 'Deep channel', '#182a4a'),
  thread('t31', 'Iris', '#5a4a9c'),
  thread('t32', 'Heather', '#a284b8'),
  thread('t33', 'Plum', '#4c2350'),
  thread('t34', 'Thrift', '#e29ab0'),
  thread('t35', 'Foxglove', '#c63a7a'),
  thread('t36', 'Blush', '#f4d3cf'),
];

const byCode = new Map(THREADS.map((one) => [one.code, one]));
export const threadByCode = (code: string): Thread | null => byCode.get(code) ?? null;
/** The threads in CIE L*a*b*, in the palette's order. */
export const THREAD_LABS = THREADS.map((one) => labOf(one.hex));
