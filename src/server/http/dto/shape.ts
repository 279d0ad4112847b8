import 'reflect-metadata';
import { getMetadataStorage, IsObject, registerDecorator, ValidateNested } from 'class-validator';
import { ownEntry, putEntry } from '@/core/own-entry';

type Class = abstract new () => object;
export type DtoClass<T extends object> = new () => T;

const nestedOf = new WeakMap<Class, Map<string, () => Class>>();

/** A member that is an object of its own, or a list of such; both are made and checked as instances of its class. */
export const Nested =
  (type: () => Class, { each = false } = {}): PropertyDecorator =>
  (target, property) => {
    const own = nestedOf.get(target.constructor as Class) ?? new Map<string, () => Class>();
    own.set(String(property), type);
    nestedOf.set(target.constructor as Class, own);
    const message = `${String(property)} must be ${each ? 'a list of objects' : 'an object'}`;
    ValidateNested({ each, message })(target, property);
    // Nested checks alone pass what is missing or null.
    IsObject({ each, message })(target, property);
  };

/** A member that a function checks: it says what is wrong, or null. For what is too much to be made into instances. */
export const CheckedBy =
  (faultOf: (value: unknown) => string | null): PropertyDecorator =>
  (target, property) =>
    registerDecorator({
      name: 'checkedByFunction',
      target: target.constructor,
      propertyName: String(property),
      validator: {
        validate: (value: unknown) => faultOf(value) === null,
        defaultMessage: (args) => `${args!.property} ${faultOf(args!.value)}`,
      },
    });

interface Shape {
  readonly members: ReadonlySet<string>;
  readonly nested: ReadonlyMap<string, () => Class>;
}
const shapes = new WeakMap<Class, Shape>();

/** Which members a class of bodies has, by the checks on them. */
function shapeOf(type: Class): Shape {
  const known = shapes.get(type);
  if (known) return known;
  const checks = getMetadataStorage().getTargetValidationMetadatas(type as never, '', false, false);
  const nested = new Map<string, () => Class>();
  for (let one: Class | null = type; one; one = Object.getPrototypeOf(one) as Class | null)
    for (const [property, of] of nestedOf.get(one) ?? []) nested.set(property, of);
  const shape = { members: new Set(checks.map((check) => check.propertyName)), nested };
  shapes.set(type, shape);
  return shape;
}

const isPlain = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Names of members that are told singly. */
const MAX_NAMES = 20;
/** Objects that one body may nest. */
const MAX_OBJECTS = 5000;

/** An instance of `type` with the members of a JSON object, and the names of members that it does not have. Linear in what it is given. */
export function instanceOf<T extends object>(
  type: DtoClass<T>,
  json: object,
): { value: T; unknown: string[]; tooMany: boolean } {
  const unknown: string[] = [];
  let made = 0;
  const make = (of: Class, from: Record<string, unknown>, path: string): object => {
    made += 1;
    const shape = shapeOf(of);
    const instance = new (of as new () => object)() as Record<string, unknown>;
    for (const key of Object.keys(from)) {
      if (!shape.members.has(key)) {
        if (unknown.length < MAX_NAMES) unknown.push(`${path}/${key.slice(0, 60)}`);
        continue;
      }
      const inner = shape.nested.get(key)?.();
      const value = ownEntry(from, key);
      if (inner && isPlain(value)) putEntry(instance, key, make(inner, value, `${path}/${key}`));
      else if (inner && Array.isArray(value) && made + value.length <= MAX_OBJECTS)
        putEntry(
          instance,
          key,
          value.map((one, i) => (isPlain(one) ? make(inner, one, `${path}/${key}/${i}`) : one)),
        );
      else {
        if (inner && Array.isArray(value)) made += value.length;
        putEntry(instance, key, value);
      }
    }
    return instance;
  };
  const value = make(type, json as Record<string, unknown>, '') as T;
  return { value, unknown, tooMany: made > MAX_OBJECTS };
}
