import { describe, expect, it } from 'vitest';
import { calendarDay, dayAndTime, dayText, timeText } from './when';

describe('dates', () => {
  it('are written in one form', () => {
    const at = new Date(2026, 10, 9, 9, 5);
    expect([dayText(at), timeText(at), dayAndTime(at)]).toEqual(['9 Nov 2026', '09:05', '9 Nov 2026, 09:05']);
    expect(dayText(at.toISOString())).toBe('9 Nov 2026');
  });

  it('without a time of day are that day everywhere', () => {
    expect(calendarDay('2026-01-01')).toBe('1 Jan 2026');
    expect(calendarDay('2026-12-31T23:30:00.000Z')).toBe('31 Dec 2026');
    expect(calendarDay('soon')).toBe('soon');
  });
});
