/** What follows from other data, made once and kept with what it came from. */
import { ownerIfAny } from './owner.ts';

/** What is kept of one object: a chain, since there are few for each, and a map for every object would be costly. */
interface Kept {
	readonly name: string;
	readonly value: unknown;
	readonly next: Kept | undefined;
}
/** The keys for what follows from an object and others. */
interface Partners {
	byOther: WeakMap<object, object>;
	keys: Set<object>;
}
const kept = new WeakMap<object, Kept>();
const partners = new WeakMap<object, Partners>();
/** Of which two objects a key was made. */
const madeOf = new WeakMap<object, { first: object; second: object }>();
/** The keys in whose making an object was the second. */
const keysAsSecond = new WeakMap<object, Set<WeakRef<object>>>();

/** The value under `name` for the object it depends on, made at the first call. */
export function derive<Value>(from: object, name: string, make: () => Value): Value {
	for (let one = kept.get(from); one; one = one.next) if (one.name === name) return one.value as Value;
	const value = make();
	// Making it may have kept other things of the same object.
	kept.set(from, { name, value, next: kept.get(from) });
	ownerIfAny()?.attach(rootOf(from), from, value);
	return value;
}

/** One key for what follows from two objects: positions alone say nothing of the faces that use them. */
export function together(first: object, second: object): object {
	let own = partners.get(first);
	if (!own) partners.set(first, (own = { byOther: new WeakMap(), keys: new Set() }));
	let key = own.byOther.get(second);
	if (!key) {
		own.byOther.set(second, (key = {}));
		own.keys.add(key);
		madeOf.set(key, { first, second });
		let others = keysAsSecond.get(second);
		if (!others) keysAsSecond.set(second, (others = new Set()));
		others.add(new WeakRef(key));
	}
	return key;
}

/** The object from which a key hangs at last. */
function rootOf(from: object): object {
	let root = from;
	for (let of = madeOf.get(root); of; of = madeOf.get(root)) root = of.first;
	return root;
}

/** Calls `visit` for everything that is kept of an object, and of the keys that hang from it. */
export function visitKept(of: object, visit: (from: object, value: unknown) => void): void {
	for (let one = kept.get(of); one; one = one.next) visit(of, one.value);
	const own = partners.get(of);
	if (own) for (const key of own.keys) visitKept(key, visit);
}

/**
 * Lets go of all that is kept of an object, alone and together with others.
 * @param dropped hears of each key that is gone, with the object from which it hung.
 */
export function forget(of: object, dropped: (root: object, key: object) => void): void {
	kept.delete(of);
	const own = partners.get(of);
	partners.delete(of);
	if (own)
		for (const key of own.keys) {
			forget(key, dropped);
			dropped(rootOf(key), key);
		}
	const asSecond = keysAsSecond.get(of);
	keysAsSecond.delete(of);
	if (asSecond)
		for (const ref of asSecond) {
			const key = ref.deref();
			if (!key) continue;
			forget(key, dropped);
			dropped(rootOf(key), key);
			const { first } = madeOf.get(key)!;
			const siblings = partners.get(first);
			siblings?.keys.delete(key);
			siblings?.byOther.delete(of);
		}
}

const identities = new WeakMap<object, number>();
let identified = 0;

/** A number that no other object has, for keys that must not hold the object. */
export function identityOf(object: object): number {
	let identity = identities.get(object);
	if (identity === undefined) identities.set(object, (identity = ++identified));
	return identity;
}
