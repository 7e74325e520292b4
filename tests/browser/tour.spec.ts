import { expect, test } from '@playwright/test';
import { openPacket, signInAs, stripImages, task } from './steps';

test('the short tour goes through the demo’s photographs, follows, and is left at any time', async ({
	page
}) => {
	await signInAs(page, 'piet', 'sandbank');
	// Elsewhere they would be another worksheet's, and it says whose they are.
	await openPacket(page, 'Rain Gauge');
	await expect(
		page.getByRole('button', { name: /demo photographs \(of .*Gauging the Lode\)/ })
	).toBeVisible();
	await expect(page.getByRole('button', { name: 'Take a short tour with them' })).toHaveCount(0);
	await page.goto('/');
	await openPacket(page, 'Gauging the Lode');
	await page.getByRole('button', { name: 'Take a short tour with them' }).click();
	const tour = page.getByRole('region', { name: 'Short tour' });
	await expect(tour).toContainText('1 of 6');
	await page.getByRole('button', { name: 'Use the five demo photographs' }).click();
	await expect(stripImages(page)).toHaveCount(5);
	await tour.getByRole('button', { name: 'Go on' }).click();
	await page.waitForURL('**/square');
	await expect(tour).toContainText('2 of 6');
	// Whoever goes on their own is followed, and nothing is in the way of the work.
	await task(page, 'Map');
	await expect(tour).toContainText('5 of 6');
	await task(page, 'Name');
	await expect(tour).toContainText('5 of 6');
	await tour.getByRole('button', { name: 'Back' }).click();
	await page.waitForURL('**/order');
	await tour.getByRole('button', { name: 'Leave the tour' }).click();
	await expect(tour).toHaveCount(0);
	await expect(stripImages(page)).toHaveCount(5);
	await task(page, 'Square');
	await expect(tour).toHaveCount(0);
});
