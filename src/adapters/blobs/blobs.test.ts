import fs from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { runBlobTests } from '@/ports/conformance/blobs';
import { diskBlobs } from './disk';
import { memoryBlobs } from './memory';

runBlobTests('disk', async () => diskBlobs(await fs.mkdtemp(path.join(os.tmpdir(), 'typica-blobs-'))));
runBlobTests('memory', async () => memoryBlobs());
