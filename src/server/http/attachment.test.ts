import { describe, expect, it } from 'vitest';
import { attachment } from './attachment';

describe('the name of a file that is kept', () => {
  it('is written as RFC 8187 has it', () => {
    // The two examples of RFC 8187, section 3.2.2, in this form: a pound sign, and a euro sign with letters.
    expect(attachment('£ rates')).toBe("attachment; filename*=UTF-8''%C2%A3%20rates");
    expect(attachment('€ rates')).toBe("attachment; filename*=UTF-8''%E2%82%AC%20rates");
    // attr-char leaves out ' ( ) * and all that encodeURIComponent leaves out already.
    expect(attachment("Ada's tee (front)*.png")).toBe(
      "attachment; filename*=UTF-8''Ada%27s%20tee%20%28front%29%2A.png",
    );
    expect(attachment('half \ud800.csv')).toContain('%EF%BF%BD');
  });
});
