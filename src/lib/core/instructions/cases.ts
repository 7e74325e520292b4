/** What an instruction asks, as a person reads it; times by the clock of Amsterdam, read on Thursday 26 November 2026. */
export interface Asked {
	readonly title?: string;
	readonly course?: string;
	readonly due?: string;
	readonly grace?: number;
	readonly min?: number;
	readonly max?: number;
	readonly paper?: string;
	readonly type?: 'pdf' | 'zip';
	readonly maxBytes?: number;
	readonly name?: string;
	readonly tone?: string;
	/** Ids, in order. */
	readonly questions?: string;
	/** Labels of questions, or "every". */
	readonly newPage?: string;
}

/** Instructions in many wordings. Those of `tuning` were looked at while the reading was written; `apart` were not. */
export const CASES: Readonly<Record<'tuning' | 'apart', readonly (readonly [string, Asked])[]>> = {
	tuning: [
		[
			'One PDF, at most 10 MB, 4 to 6 pages, called Family_Given_HW3, due Friday 5 pm; answer questions 1, 2 (a) to (c) and 3; start question 3 on a new page.',
			{
				type: 'pdf',
				maxBytes: 10e6,
				min: 4,
				max: 6,
				name: '{family}_{given}_HW3',
				due: '2026-11-27T17:00',
				questions: '1 2a 2b 2c 3',
				newPage: '3'
			}
		],
		[
			'Homework 4\nDue: Monday 7 December 2026, 23:59\nSubmit a single PDF file named Lastname_Firstname_HW4.pdf. Problems 1-5. Begin each problem on a new page.',
			{
				title: 'Homework 4',
				due: '2026-12-07T23:59',
				type: 'pdf',
				name: '{family}_{given}_HW4',
				questions: '1 2 3 4 5',
				newPage: 'every'
			}
		],
		[
			'BO-1 Fen Botany, Worksheet 2: Sedges and rushes\nHand in by Wednesday 2 December at noon. No more than 3 pages of A4, photographs of your pages as one PDF, max. 8 MB.',
			{
				title: 'Worksheet 2: Sedges and rushes',
				course: 'BO-1',
				due: '2026-12-02T12:00',
				max: 3,
				paper: 'A4',
				type: 'pdf',
				maxBytes: 8e6
			}
		],
		[
			'Please answer all parts of questions 2 and 4 (2a, 2b, 4a, 4b, 4c). Scan in black and white only. File must not exceed 5 MB. Deadline 4 Dec 18:00.',
			{ questions: '2a 2b 4a 4b 4c', tone: 'black-and-white', maxBytes: 5e6, due: '2026-12-04T18:00' }
		],
		[
			'Upload your work as a PDF by 30 November 2026 at 9:00 am. Name the file surname-firstname-lab2. Minimum 2 pages, maximum 4 pages.',
			{ type: 'pdf', due: '2026-11-30T09:00', name: '{family}-{given}-lab2', min: 2, max: 4 }
		],
		[
			'Read pages 45 to 52 of the reader first. Then do exercises 3, 5 and 7. Your answer should be exactly two pages. Hand in before Tuesday 1 December, 10:00.',
			{ questions: '3 5 7', min: 2, max: 2, due: '2026-12-01T10:00' }
		],
		[
			'Assignment 3 (posted 12 November). The solutions will be discussed on 10 December. Due 3 December 2026, 17:00. Late submissions are accepted for up to 30 minutes.',
			{ title: 'Assignment 3', due: '2026-12-03T17:00', grace: 30 }
		],
		[
			'Write in blue or black pen on A4 paper. Q1 to Q4. One page per question, each question on its own page. PDF only.',
			{ paper: 'A4', questions: '1 2 3 4', newPage: 'every', type: 'pdf' }
		],
		[
			'Lab report 2, SU-3 Surveying. The report is due on Thursday, December 3rd at 4:30 p.m. Up to 6 pages. Save as [Last name]_[First name]_Lab2.pdf',
			{
				title: 'Lab report 2',
				course: 'SU-3',
				due: '2026-12-03T16:30',
				max: 6,
				name: '{family}_{given}_Lab2',
				type: 'pdf'
			}
		],
		[
			'Your submission: a ZIP with one picture of each page (JPEG). Not more than 20 MB altogether. Deadline: 2026-12-05 20:00.',
			{ type: 'zip', maxBytes: 20e6, due: '2026-12-05T20:00' }
		],
		[
			'Problem set 5 is due at 11:59 pm on Sunday 6 December. Do problems 1 through 6 except problem 4. Greyscale scans please.',
			{ title: 'Problem set 5', due: '2026-12-06T23:59', questions: '1 2 3 5 6', tone: 'greyscale' }
		],
		[
			'Between 3 and 5 pages, letter-size paper. Answer questions 1 (a)-(d) and 2. Put question 2 on a fresh page.',
			{ min: 3, max: 5, paper: 'Letter', questions: '1a 1b 1c 1d 2', newPage: '2' }
		],
		[
			'Quiz 2. You have until 11:15 on 27 November 2026 to hand in. There is a grace period of 10 minutes. Everything in one PDF of at most 3 MB.',
			{ title: 'Quiz 2', due: '2026-11-27T11:15', grace: 10, type: 'pdf', maxBytes: 3e6 }
		],
		[
			'Answer questions 1–3. Question 1 is worth 10 marks, question 2 is worth 15. The exam in January covers questions like these.',
			{ questions: '1 2 3' }
		],
		[
			'Hand in tomorrow before 6 pm: tasks 1a, 1b, 2 and 3a-c. Call your file Family_Given_Task.',
			{ due: '2026-11-27T18:00', questions: '1a 1b 2 3a 3b 3c', name: '{family}_{given}_Task' }
		],
		[
			'The document must be a PDF no larger than 15 megabytes and contain at least 5 pages. Please use the file name "Given Family - Essay".',
			{ type: 'pdf', maxBytes: 15e6, min: 5, name: '{given} {family} - Essay' }
		],
		['Turn in by next Friday at 3pm. Solve exercises 2.', { due: '2026-12-04T15:00', questions: '2' }],
		[
			'Worksheet 6: Evaporation. Course HY-2. Only three pages will be read. Colour scans, as there are maps. Due 11 December 2026 at 08:30.',
			{ title: 'Worksheet 6: Evaporation', course: 'HY-2', max: 3, tone: 'colour', due: '2026-12-11T08:30' }
		],
		[
			'File format: PDF\nFile size: max 12 MB\nPages: 2-3\nFile name: HW7_Surname_Firstname\nDeadline: 9 Dec 2026, 21:00',
			{ type: 'pdf', maxBytes: 12e6, min: 2, max: 3, name: 'HW7_{family}_{given}', due: '2026-12-09T21:00' }
		],
		[
			'Office hours are on Tuesday at 3 pm. Homework 8 must be handed in no later than Thursday 10 December, 14:00.',
			{ title: 'Homework 8', due: '2026-12-10T14:00' }
		],
		[
			'Complete Q1, Q2 and Q5. Each answer starts on a new page. Files over 25 MB are refused.',
			{ questions: '1 2 5', newPage: 'every', maxBytes: 25e6 }
		],
		[
			'Work on paper of any kind. Please scan your pages, do not send Word documents. One single PDF please, named course_family_given.',
			{ type: 'pdf', name: '{course}_{family}_{given}' }
		],
		[
			'Reminder: the field trip is on 5 December. The worksheet itself has to be in by 8 December at 5 pm. Page limit: 4.',
			{ due: '2026-12-08T17:00', max: 4 }
		],
		[
			'Parts (a) to (c) of question 2 and all of question 3. Not longer than 2 pages.',
			{ questions: '2a 2b 2c 3', max: 2 }
		],
		[
			'GE-4 Soils\nHomework 1\nAnswer 1(a), 1(b), 2(a), 2(b). Submit by Mon 30 Nov 2026 17:00 CET.',
			{ title: 'Homework 1', course: 'GE-4', questions: '1a 1b 2a 2b', due: '2026-11-30T17:00' }
		],
		[
			'Hand in your sketch as a PDF. The video that goes with the lecture is 50 MB, so use the library’s line.',
			{ type: 'pdf' }
		],
		[
			'Six pages at most. Start questions 2 and 4 on a new page. We take PDF up to 7.5 MB.',
			{ max: 6, newPage: '2 4', type: 'pdf', maxBytes: 7.5e6 }
		],
		[
			'Due date: 14/12/2026 at 13:00. See page 3 of the syllabus for the rules on late work.',
			{ due: '2026-12-14T13:00' }
		],
		[
			'Deadline is Friday, 4 December 2026, 6:00 PM (UTC+1). Submissions after this are marked late and refused after 60 minutes.',
			{ due: '2026-12-04T18:00', grace: 60 }
		],
		[
			'Answer questions 1 to 3. Omit question 2(b).\nOne PDF, four pages maximum.',
			{ questions: '1 2 3', type: 'pdf', max: 4 }
		],
		[
			'Please name your PDF {family}_{given}_{course} and keep it below 900 KB.',
			{ type: 'pdf', name: '{family}_{given}_{course}', maxBytes: 900e3 }
		],
		[
			'Exercise sheet 9. Exercises 1, 2, 3. Two to four pages. Hand in on paper or as PDF, until 15.12.2026, 12:00.',
			{ title: 'Exercise sheet 9', questions: '1 2 3', min: 2, max: 4, type: 'pdf', due: '2026-12-15T12:00' }
		],
		[
			'No length limit. Name: FamilyName_GivenName_Project. Format: PDF.',
			{ name: '{family}_{given}_Project', type: 'pdf' }
		],
		['We meet on Monday. Bring your notebook. Question 4 from last week will be looked at again.', {}],
		[
			'Worksheet 5 should be about 3 pages long. Begin question 1 at the top of a page and question 3 too.',
			{ title: 'Worksheet 5', min: 3, max: 3, newPage: '1 3' }
		],
		[
			'Return by 1 December, 23:59, as PDF (not ZIP, not pictures). At most 10 pages and 10MB.',
			{ due: '2026-12-01T23:59', type: 'pdf', max: 10, maxBytes: 10e6 }
		],
		[
			'Submit Assignment 2: Rating curves before the lecture on 3 December at 13:30. Answer questions 1a-e, 2, 3a and 3b.',
			{ title: 'Assignment 2: Rating curves', due: '2026-12-03T13:30', questions: '1a 1b 1c 1d 1e 2 3a 3b' }
		],
		[
			'The number of pages must be 5. Use legal paper. Scans in colour or greyscale.',
			{ min: 5, max: 5, paper: 'Legal', tone: 'colour greyscale' }
		],
		[
			'Your file should be called firstname.lastname.pdf. Send it in by Saturday noon.',
			{ name: '{given}.{family}', type: 'pdf', due: '2026-11-28T12:00' }
		],
		[
			'Do the odd-numbered problems. Everything is due in two weeks, on 10 December at 18:00.',
			{ due: '2026-12-10T18:00' }
		],
		[
			'Question 1 [6 marks]\nQuestion 2 [10 marks]\nQuestion 3 [4 marks]\nAnswer all questions. Use no more than one page for each.',
			{ questions: '1 2 3' }
		],
		[
			'Hand in: pp. 1-4 of the field book, scanned. Limit 4 pages. 30 Nov, 16:00 at the latest.',
			{ max: 4, due: '2026-11-30T16:00' }
		],
		[
			'Homework 11 (HY-2): tasks 1, 2, 3 (a, b, c). Black & white scans. Name: Surname_HW11.',
			{
				title: 'Homework 11',
				course: 'HY-2',
				questions: '1 2 3a 3b 3c',
				tone: 'black-and-white',
				name: '{family}_HW11'
			}
		],
		[
			'A new page for every question, please, and all in one PDF file smaller than 6 MB.',
			{ newPage: 'every', type: 'pdf', maxBytes: 6e6 }
		],
		[
			'SUBMISSION CHECKLIST\n[ ] All answers are in one PDF document\n[ ] Document is no more than 8 pages (A4)\n[ ] File size under 20MB\n[ ] File is named: StudentID_Surname_A3.pdf\n[ ] Uploaded before 16:00 on 11/12/2026',
			{
				type: 'pdf',
				max: 8,
				paper: 'A4',
				maxBytes: 20e6,
				name: 'StudentID_{family}_A3',
				due: '2026-12-11T16:00'
			}
		],
		[
			'Homework Set #3. Due: Thurs., Dec. 10, 11:59PM. Show all work. Staple your pages! Late homework: -10% per day, not accepted after 3 days.',
			{ due: '2026-12-10T23:59' }
		],
		[
			'Word limit 1500 words, 5 pages maximum including figures. Submission deadline 5pm Friday Week 10.',
			{ max: 5 }
		],
		[
			'You’ll find questions 1–6 on page 112. Do all of them, apart from 5. Q6 goes on a separate sheet. I want your scans by Sunday evening.',
			{ questions: '1 2 3 4 6', newPage: '6' }
		],
		[
			'Q.1 (10 points) Derive the formula. Q.2 (5 points) Sketch it. Q.3 (5 points) Explain.',
			{ questions: '1 2 3' }
		],
		[
			'Hand in Exercises 4.2 and 4.3 on Tuesday at 9:00. There will be 2 questions in the test on Friday at 10:00.',
			{ due: '2026-12-01T09:00' }
		],
		[
			'Answers must not be longer than one page each. Pages must be numbered p. 1/4, 2/4 etc. Submission opens 1 December 9:00 and closes 8 December 17:00.',
			{ due: '2026-12-08T17:00' }
		],
		[
			'The report (PDF; black-and-white is fine, colour preferred) must be received by 23:59 on the 15th of December 2026. 2 bonus points if it comes before 10 December.',
			{ type: 'pdf', due: '2026-12-15T23:59' }
		],
		[
			'Assignment 5. Complete problems 1, 3, 5-9 (odd). Upload one PDF per problem.',
			{ title: 'Assignment 5', type: 'pdf', questions: '1 3 5 7 9' }
		],
		[
			'Return the signed form by 2 December. The essay itself is due on 16 December at 15:00 and should run to between 4 and 5 pages.',
			{ due: '2026-12-16T15:00', min: 4, max: 5 }
		],
		[
			'This weekend: finish 3a and 3b, then start 4. We will mark 3 together on Monday at 11. Hand in nothing yet.',
			{}
		]
	],
	apart: [
		[
			'Coursework 2: Infiltration tests\nTo be handed in by Fri 11 Dec 2026 at 15:00 as one PDF (15 MB maximum). Length: 3 to 4 sides of A4. Filename: Family-Given-CW2.',
			{
				title: 'Coursework 2: Infiltration tests',
				due: '2026-12-11T15:00',
				type: 'pdf',
				maxBytes: 15e6,
				min: 3,
				max: 4,
				paper: 'A4',
				name: '{family}-{given}-CW2'
			}
		],
		[
			'For next week (Wednesday 2 December, 9 am) please do questions 4, 5 and 6(a). Two pages should be enough, three are the limit.',
			{ due: '2026-12-02T09:00', questions: '4 5 6a', max: 3 }
		],
		[
			'Your scan may have five pages at the most and has to be a PDF. Put every question on a separate page. Closing time: 8 Dec 2026 19:30.',
			{ max: 5, type: 'pdf', newPage: 'every', due: '2026-12-08T19:30' }
		],
		[
			'Homework 6 is to be submitted on Monday 30 November by 8 p.m. Attempt problems 2-4 and problem 7. Grayscale only.',
			{ title: 'Homework 6', due: '2026-11-30T20:00', questions: '2 3 4 7', tone: 'greyscale' }
		],
		[
			'Worksheet 4 / HY-2 / one pdf per student, <= 4 MB, named as lastname_firstname_ws4',
			{ title: 'Worksheet 4', course: 'HY-2', type: 'pdf', maxBytes: 4e6, name: '{family}_{given}_ws4' }
		],
		[
			'Please photograph your pages and make one PDF of them. It must be in by 17:00 on Friday 18 December 2026; until 17:15 it is still taken, marked late.',
			{ type: 'pdf', due: '2026-12-18T17:00' }
		],
		[
			'Answer Question 1 parts (a), (b) and (d), and Question 3. Question 3 has to begin on a new page. Minimum length 2 pages.',
			{ questions: '1a 1b 1d 3', newPage: '3', min: 2 }
		],
		[
			'Test on 16 December. Practice sheet: hand in by 9 December 2026, 12:30, not more than 2 pages, file size below 2 MB.',
			{ due: '2026-12-09T12:30', max: 2, maxBytes: 2e6 }
		],
		[
			'Solve 1a, 1c, 2b. Give your file the name FirstName_LastName_Sheet10 and send it as PDF before 10 am on Dec 7.',
			{ questions: '1a 1c 2b', name: '{given}_{family}_Sheet10', type: 'pdf', due: '2026-12-07T10:00' }
		],
		[
			'Essay plan. One page only. A5 or A4 is fine. Due tonight at 22:00.',
			{ max: 1, min: 1, due: '2026-11-26T22:00' }
		],
		[
			'Assignment 7\n- questions 1 to 8\n- single PDF\n- max 20 pages\n- max 30 MB\n- due Sunday 13 December 23:00',
			{
				title: 'Assignment 7',
				questions: '1 2 3 4 5 6 7 8',
				type: 'pdf',
				max: 20,
				maxBytes: 30e6,
				due: '2026-12-13T23:00'
			}
		],
		[
			'We covered exercises 1 to 4 in class. Exercises 5, 6 and 8 are for you to hand in by 4 December at 12:00.',
			{ questions: '5 6 8', due: '2026-12-04T12:00' }
		],
		[
			'Hand in as images in a ZIP archive, 40 MB at most. Deadline Tuesday 8th December at half past five? No: at 17:45.',
			{ type: 'zip', maxBytes: 40e6, due: '2026-12-08T17:45' }
		],
		[
			'Use squared A4 paper, write on one side. Between four and seven pages. Colour is not needed: black and white scans only.',
			{ paper: 'A4', min: 4, max: 7, tone: 'black-and-white' }
		],
		[
			'Lab 5 (GE-4). Report length: at least 3, at most 5 pages. The report is due on 12/14/2026 at 5:00 PM.',
			{ title: 'Lab 5', course: 'GE-4', min: 3, max: 5, due: '2026-12-14T17:00' }
		],
		[
			'Please keep to the name Surname, Given - Worksheet 8 for the file. Late work is taken up to 2 hours after the deadline (Wed 9 December, 18:00).',
			{ name: '{family}, {given} - Worksheet 8', grace: 120, due: '2026-12-09T18:00' }
		],
		[
			'Questions 1, 3(a)–(c), 4. Each on a new page. Not over 8 pages in all.',
			{ questions: '1 3a 3b 3c 4', newPage: 'every', max: 8 }
		],
		['The handout has 12 pages; read pages 2 to 7. There is nothing to hand in this week.', {}],
		[
			'Term paper sketch: PDF, 2.5 MB limit, no more than four pages, by Monday 14 December 2026 (09:00).',
			{ type: 'pdf', maxBytes: 2.5e6, max: 4, due: '2026-12-14T09:00' }
		],
		[
			'Do tasks 1 and 2 of sheet 3. Begin task 2 on a page of its own. PDF, please.',
			{ questions: '1 2', newPage: '2', type: 'pdf' }
		],
		[
			'Course: SU-3. Exercise 4: Closing the traverse. Submit by 3 Dec 2026 at 14:00 h. Name your submission SU3_Family_Given.',
			{
				title: 'Exercise 4: Closing the traverse',
				course: 'SU-3',
				due: '2026-12-03T14:00',
				name: 'SU3_{family}_{given}'
			}
		],
		[
			'Answer five of the eight questions. Maximum 6 pages. File no bigger than 9 MB. Deadline in the calendar.',
			{ max: 6, maxBytes: 9e6 }
		]
	]
};
