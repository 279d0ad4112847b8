import { expect, it } from 'vitest';
import { shortName } from './store-name';

it('calls a store by its channel unless there is another one on it', () => {
  const stores = [
    { name: 'Boathouse', channelName: 'Pennyquay' },
    { name: 'Brackwater UK', channelName: 'Plainfront' },
    { name: 'Brackwater Europe', channelName: 'Plainfront' },
  ];
  expect(stores.map((store) => shortName(store, stores))).toEqual(['Pennyquay', 'Brackwater UK', 'Brackwater Europe']);
});
