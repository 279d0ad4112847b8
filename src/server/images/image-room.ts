import { Room } from '../processes/room';
import { IMAGE_ROOM_MB, PAINTER_HOLDS_MB } from './limits';
import { processWide } from '../process-wide';

const MB = 1024 * 1024;

/** The room of this process for pictures: printers, painters and what looks at files share it. Who has a file looked at leaves room for a painter, or another's file. */
export const imageRoom = processWide('image-room', () => new Room(IMAGE_ROOM_MB * MB, PAINTER_HOLDS_MB * MB));
