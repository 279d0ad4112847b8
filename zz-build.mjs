import { build } from './bin/lib/build.mjs';
await build(process.cwd(), { say: (t) => console.log(t), runFile: 'zz-' + process.pid });
