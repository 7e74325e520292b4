import { resolve } from 'node:path';
import { expect, it } from 'vitest';
import { compileKernels } from '../../kernelsPlugin';

it('callers of the kernels know their signatures as the compiler says them; `npx vitest -u` writes them anew', async () => {
	const { signatures } = await compileKernels(resolve('src/lib/core/kernels/assembly/index.ts'));
	await expect(signatures).toMatchFileSnapshot('../../src/lib/core/kernels/signatures.d.ts');
});
