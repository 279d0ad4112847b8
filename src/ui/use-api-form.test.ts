import { describe, expect, it } from 'vitest';
import { Problem } from './api';
import { faultsOf } from './use-api-form';

const fields = ['email', 'password', 'name'];

describe('a refused form', () => {
  it('says what is wrong at its fields, the first word of each', () => {
    const problem = new Problem(422, 'body-invalid', 'whole', {
      faults: [
        { path: '/email', says: 'Enter an email address' },
        { path: '/email', says: 'too long' },
        { path: '/__proto__', says: 'no' },
      ],
    });
    expect(faultsOf(problem, fields)).toEqual({ all: null, at: [['email', 'Enter an email address.']] });
  });

  it('takes a conflict to the field that it names', () => {
    const taken = new Problem(409, 'email-taken', 'Another account has this address.', { field: 'email' });
    expect(faultsOf(taken, fields)).toEqual({ all: null, at: [['email', 'Another account has this address.']] });
  });

  it('is told whole where it names no field', () => {
    expect(faultsOf(new Problem(0, 'offline', 'No answer.', {}), fields)).toEqual({ all: 'No answer.', at: [] });
    expect(faultsOf(new Error('odd'), fields)).toEqual({ all: 'odd', at: [] });
  });
});
