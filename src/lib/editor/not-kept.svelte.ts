/** Stands for saving where nothing is kept: the examples of the Handbook may be changed, and are as they were the next time. */
import { Saving } from './saving.svelte';

export class NotKept extends Saving {
	override readonly keeps = false;

	constructor() {
		super('handbook');
	}
	override note(): void {}
	override letGo(): boolean {
		return false;
	}
	override flush(): Promise<void> {
		return Promise.resolve();
	}
	override close(): Promise<void> {
		return Promise.resolve();
	}
}
