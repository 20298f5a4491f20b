export const READING_TO_BILL = `
# RB Reading to bill | Metering | Metering
## RB-1 Read | Metering | Metering
### RB-1.1 Plan a reading round | Metering | Metering
@ MET-03 Plan a reading round | 10 | medium
Go to "Rounds" in "Millrace Metering"
Pick "District" with {District}
Press "Plan round". You should see: “Round planned” with a batch number
Keep "Batch number" as "Reading batch"
### RB-1.2 Import readings | Metering | Metering | critical
@ MET-04 Import the readings of a round | 14 | high
Go to "Readings" in "Millrace Metering"
Fill "Batch" with {Reading batch}
Press "Import file". You should see: As many readings as meters on the round
See "Refused" showing "0"
Press "Accept". You should see: The batch is “complete”
Keep "Consumption" as "Consumption"
### RB-1.3 Estimate a missing reading | Metering | Metering
@ MET-05 Estimate a missing reading | 12 | medium
Go to "Readings" in "Millrace Metering"
Fill "Batch" with {Reading batch}
Press "Estimate missing". You should see: Each estimate is marked as one
Keep "Consumption" as "Consumption"
### RB-1.4 Question an odd reading | Metering | Metering
@ MET-06 Question an odd reading | 11 | medium
Go to "Odd readings" in "Millrace Metering"
Fill "Batch" with {Reading batch}. You should see: Readings over three times the last
Press "Ask for a second look". You should see: A job for the round
### RB-1.5 Take a customer’s own reading | Customer desk | Customer
@ CUS-11 Take a customer’s own reading | 6 | low
Go to "Accounts" in "Millrace Customer"
Fill "Account number" with {Account no.}
Fill "Reading" with {Own reading}
Press "Save reading". You should see: “Thank you” and the reading with today’s date
## RB-2 Bill run | Billing | Billing | critical
### RB-2.1 Start a bill run | Billing | Billing | critical
@ BIL-11 Start a bill run | 18 | high
Go to "Bill runs" in "Millrace Billing"
Press "New run"
Fill "Batch" with {Reading batch}. You should see: A consumption of {Consumption}
Press "Start". You should see: Progress, and then “Run over”
Keep "First bill number" as "Bill no."
### RB-2.2 Check a bill by hand | Billing | Billing
@ BIL-12 Check a bill by hand | 15 | high
Go to "Bills" in "Millrace Billing"
Fill "Bill number" with {Bill no.}
See "Tariff" showing {Tariff}
See "Total" showing {Total expected}
### RB-2.3 Hold back a bill | Billing | Billing
@ BIL-13 Hold back a doubtful bill | 9 | medium
Go to "Bills" in "Millrace Billing"
Fill "Bill number" with {Bill no.}
Press "Hold back". You should see: The bill is not in the print file
Ask "GET /bills/{Bill no.}" in "Billing interface"
See "$.state" showing "held back"
### RB-2.4 Print and send | Billing | Billing
@ BIL-14 Print and send bills | 10 | medium
Go to "Bill runs" in "Millrace Billing"
Fill "Bill number" with {Bill no.}
Press "Make print file". You should see: As many pages as bills
### RB-2.5 Post the run | Finance | Ledger | critical
@ FIN-05 Post the bill run | 13 | high
Go to "Postings" in "Millrace Ledger"
Fill "Document" with {Bill no.}. You should see: The sum of the run
Press "Post". You should see: “Posted”, and the accounts balance
Keep "Posting number" as "Posting no."
## RB-3 Collect | Finance | Ledger
### RB-3.1 Match payments | Finance | Ledger
@ FIN-06 Match a day’s payments | 16 | high
Go to "Payments" in "Millrace Ledger"
Press "Import bank file". You should see: Payments with their bill numbers
Fill "Bill number" with {Bill no.}
Press "Match". You should see: Nothing left to pay
Keep "Payment number" as "Payment no."
Ask "select number, left_to_pay from bills where number = {Bill no.}" in "Ledger database"
See "rows" counting "1"
See "left_to_pay" beside {Bill no.} at most "0"
### RB-3.2 Remind | Finance | Ledger
@ FIN-07 Remind a late payer | 9 | medium
Go to "Reminders" in "Millrace Ledger"
Fill "Bill number" with {Bill no.}
Press "Age by 30 days". You should see: A first reminder
Keep "Reminder number" as "Reminder no."
### RB-3.3 Agree instalments | Customer desk | Customer
@ CUS-12 Agree instalments | 10 | medium
Go to "Accounts" in "Millrace Customer"
Fill "Reminder number" with {Reminder no.}
Press "Agree instalments". You should see: Equal parts that add up to the bill
### RB-3.4 Refund a credit | Finance | Ledger
@ FIN-08 Refund a credit | 10 | low
Go to "Payments" in "Millrace Ledger"
Fill "Payment number" with {Payment no.}
Press "Refund credit". You should see: “Refunded”
### RB-3.5 Write off a debt | Finance | Ledger
`;
