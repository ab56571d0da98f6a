/** As much of the standard WebAssembly interface as is used: the core is compiled without the DOM’s declarations. */
interface Standard {
	Memory: new (limits: { initial: number }) => Memory;
	Module: new (bytes: Uint8Array) => object;
	Instance: new (module: object, imports: { env: { memory: Memory } }) => { exports: object };
}
export interface Memory {
	readonly buffer: ArrayBuffer;
	grow(pages: number): void;
}
const { WebAssembly: standard } = globalThis as unknown as { WebAssembly: Standard };

/** Bytes in a page of memory. */
export const PAGE = 65536;

/** A memory of at least `bytes`; it takes room only where it is written to. */
export const makeMemory = (bytes: number): Memory =>
	new standard.Memory({ initial: Math.ceil(bytes / PAGE) });

/** Makes an instance of one of the modules in ./binaries.ts, which are part of the program and never come from a file. */
export function instanceOf<Exports>(base64: string, memory: Memory): Exports {
	return new standard.Instance(moduleOf(base64), { env: { memory } }).exports as Exports;
}

const modules = new Map<string, object>();

/** A module, compiled once. */
function moduleOf(base64: string): object {
	let module = modules.get(base64);
	if (!module) {
		const text = atob(base64);
		const bytes = Uint8Array.from({ length: text.length }, (_, i) => text.charCodeAt(i));
		modules.set(base64, (module = new standard.Module(bytes)));
	}
	return module;
}
