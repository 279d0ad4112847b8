let ready: () => void;
/** Kept once the list of messages listens. */
export const toastsReady = new Promise<void>((resolve) => (ready = resolve));

/** Told by the list of messages when it is there. */
export const toastsAreReady = (): void => ready();
