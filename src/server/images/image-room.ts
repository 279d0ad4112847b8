import { Room } from '../processes/room';
import { IMAGE_ROOM_MB } from './limits';
import { processWide } from '../process-wide';

/** The room of this process for pictures: printers, painters and what looks at files share it. */
export const imageRoom = processWide('image-room', () => new Room(IMAGE_ROOM_MB * 1024 * 1024));
