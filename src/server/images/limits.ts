/** What is taken in. */
export const MAX_UPLOAD_BYTES = 100 * 1024 * 1024;
export const MAX_SVG_BYTES = 10 * 1024 * 1024;
/** Pixels of a raster artwork: 120 megapixels. */
export const MAX_PIXELS = 120_000_000;
export const PREVIEW_PX = 1600;
export const THUMBNAIL_PX = 240;

/** What the child process that looks at a stranger's file may use. */
export const INGEST_SECONDS = 60;
export const INGEST_MEMORY_MB = 1400;
