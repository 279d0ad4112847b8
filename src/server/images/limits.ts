/** What is taken in. */
export const MAX_UPLOAD_BYTES = 100 * 1024 * 1024;
export const MAX_SVG_BYTES = 10 * 1024 * 1024;
/** Pixels of a raster artwork: 120 megapixels. */
export const MAX_PIXELS = 120_000_000;
export const PREVIEW_PX = 1600;
export const THUMBNAIL_PX = 240;

/** Memory for everything that draws or decodes pictures, of one process of ours and its children (the table in docs/architecture.md). */
export const IMAGE_ROOM_MB = Number(process.env.TYPICA_IMAGE_ROOM_MB ?? 600);

/** What the process that looks at one stranger's file may use: at first, and when that was too little, with the room to itself. */
export const INGEST_SECONDS = 60;
export const INGEST_SMALL_MB = 200;
export const INGEST_MEMORY_MB = 800;

/** Drawing happens under the same limits as looking. */
export const PRINT_SECONDS = 60;
export const PRINTER_BASE_MB = 90;
export const PRINTER_MB = 1100;
export const PAINT_SECONDS = 60;
export const PAINTER_HOLDS_MB = 340;
export const PAINTER_MB = 900;
