import { sendAct } from '@/server/http/send-act';
import { holdSend } from '@/server/sends/sends';

/** Lets a paused send go on. */
export const POST = sendAct((ctx, send) => holdSend(ctx, send, false));
