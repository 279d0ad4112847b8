interface Named {
  readonly name: string;
  readonly channelName: string;
}

/** What a store is called where there is little room: its channel, or its own name where the seller has another store on that channel. */
export const shortName = (store: Named, stores: readonly Named[]): string =>
  stores.filter(({ channelName }) => channelName === store.channelName).length > 1 ? store.name : store.channelName;
