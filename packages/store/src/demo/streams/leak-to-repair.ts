export const LEAK_TO_REPAIR = `
# LR Leak to repair | Field crews | Works | critical
## LR-1 Report and triage | Customer desk | Customer
### LR-1.1 Take a leak report | Customer desk | Customer | critical
@ CUS-07 Take a leak report | 8 | high
Go to "Reports" in "Millrace Customer"
Press "New report"
Fill "Place" with {Place}
Pick "How bad" with {How bad}
Press "Save report". You should see: “Report saved” with a number
Keep "Report number" as "Report no."
### LR-1.2 Join reports of one leak | Customer desk | Customer
@ CUS-08 Join two reports of one leak | 7 | low
Go to "Reports" in "Millrace Customer"
Fill "Report number" with {Report no.}
Press "Find near here". You should see: Reports within 100 m
Press "Join". You should see: One leak with two reports
### LR-1.3 Rank by urgency | Field crews | Works
@ FLD-04 Rank a leak by urgency | 9 | medium
Go to "Triage" in "Millrace Works"
Fill "Report number" with {Report no.}. You should see: {Place} on the map
Pick "Urgency" with {How bad}
Press "Make job". You should see: “Job made” with a number
Keep "Job number" as "Job no."
### LR-1.4 Tell the customer when | Customer desk | Customer
@ CUS-09 Tell the customer when | 5 | low
Go to "Reports" in "Millrace Customer"
Fill "Report number" with {Report no.}. You should see: A day for the repair
Press "Send message". You should see: “Message sent”
### LR-1.5 Close a false alarm | Customer desk | Customer
## LR-2 Dispatch | Field crews | Works
### LR-2.1 Ask for a street permit | Field crews | Works | critical
@ FLD-05 Ask for a street permit | 12 | high
Go to "Permits" in "Millrace Works"
Fill "Job number" with {Job no.}
Fill "From" with {today + 2 working days}
Press "Ask for permit". You should see: “Permit granted” with a number
Keep "Permit number" as "Permit no."
### LR-2.2 Send a crew | Field crews | Works
@ FLD-06 Send a crew | 10 | high
Go to "Dispatch" in "Millrace Works"
Fill "Job number" with {Job no.}. You should see: The permit {Permit no.} beside the job
Pick "Crew" with "North"
Press "Send". You should see: The job is on the crew’s tablet
See "Permit for the job" in "Tablet of crew North" showing {Permit no.}
### LR-2.3 Reserve parts | Stores | Stores
@ STO-02 Reserve parts for a repair | 9 | medium
Go to "Reservations" in "Millrace Stores"
Fill "Job number" with {Job no.}
Press "Propose parts". You should see: A clamp and two couplings
Press "Reserve". You should see: “Parts reserved” with a list number
Keep "List number" as "Parts list no."
### LR-2.4 Shut off a street | Field crews | Works
### LR-2.5 Warn affected customers | Customer desk | Customer
@ CUS-10 Warn affected customers | 8 | medium
Go to "Notices" in "Millrace Customer"
Fill "Job number" with {Job no.}. You should see: The households in the shut-off street
Press "Warn all". You should see: A message to each household
## LR-3 Repair | Field crews | Works | critical
### LR-3.1 Record the repair | Field crews | Works | critical
@ FLD-07 Record the repair | 22 | high
Go to "Jobs" in "Millrace Works"
Fill "Job number" with {Job no.}. You should see: The permit {Permit no.}
Pick "Cause" with {Cause}
Fill "Hours" with {Crew hours}
Press "Finish job". You should see: The job is “done”
### LR-3.2 Book the parts used | Stores | Stores
@ STO-03 Book the parts used | 11 | medium
Go to "Issues" in "Millrace Stores"
Fill "List number" with {Parts list no.}
Press "Book as used". You should see: The stock falls, and the list is “used”
Keep "Value of parts" as "Parts value"
### LR-3.3 Restore the street | Field crews | Works
### LR-3.4 Give the permit back | Field crews | Works
@ FLD-08 Give the permit back | 6 | low
Go to "Permits" in "Millrace Works"
Fill "Permit number" with {Permit no.}
Press "Give back". You should see: The permit is “over”
### LR-3.5 Check water quality | Field crews | Works
@ FLD-09 Check water quality after a repair | 14 | medium
Go to "Samples" in "Millrace Works"
Fill "Job number" with {Job no.}
Press "New sample". You should see: A sample with today’s date
Pick "Result" with "Clear"
Press "Save". You should see: “Sample saved”
## LR-4 Recharge | Billing | Billing
### LR-4.1 Decide who pays | Billing | Billing
@ BIL-08 Decide who pays for a leak | 10 | medium
Go to "Damage" in "Millrace Billing"
Fill "Job number" with {Job no.}. You should see: The cause {Cause}
Pick "Who pays" with "Whoever did it"
Press "Save"
### LR-4.2 Work out the damage charge | Billing | Billing | critical
@ BIL-09 Work out the damage charge | 14 | high
Go to "Damage" in "Millrace Billing"
Fill "Job number" with {Job no.}. You should see: {Crew hours} hours, and parts of {Parts value}
Press "Work out". You should see: “Hours and parts added up: {Crew hours} hours”
Keep "Damage charge" as "Damage charge"
Keep "Charge number" as "Charge no."
### LR-4.3 Post the recharge | Finance | Ledger
@ FIN-04 Post the recharge | 12 | medium
Go to "Postings" in "Millrace Ledger"
Fill "Document" with {Charge no.}. You should see: A claim of {Damage charge}
Press "Post". You should see: “Posted”
Keep "Posting number" as "Posting no."
### LR-4.4 Waive a charge | Billing | Billing
@ BIL-10 Waive a damage charge | 8 | low
Go to "Damage" in "Millrace Billing"
Fill "Charge number" with {Charge no.}
Press "Waive". You should see: A reason is asked for
### LR-4.5 Claim on the insurer | Finance | Ledger
`;
