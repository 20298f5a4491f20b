export const NEW_SUPPLY = `
# NS New supply | Customer desk | Customer | critical
## NS-1 Apply and survey | Customer desk | Customer | critical
### NS-1.1 Take an application | Customer desk | Customer | critical
@ CUS-01 Take the application | 12 | high
Go to "Applications" in "Millrace Customer". You should see: The list of applications
Press "New application". You should see: An empty application form
Fill "Customer name" with {Customer}
Pick "Customer band" with {Customer band}
Fill "Wanted by" with {today + 30 days}
Press "Save application". You should see: “Application saved” with a number
Keep "Application number" as "Application no."
### NS-1.2 Check the address | Customer desk | Customer
@ CUS-02 Check the address | 8 | medium
Go to "Applications" in "Millrace Customer"
Fill "Application number" with {Application no.}. You should see: The application of {Customer}
Press "Check address". You should see: The address is on the main, or the nearest main is named
Press "Confirm"
### NS-1.3 Survey the site | Field crews | Works | critical
@ FLD-01 Survey the site | 25 | high
Go to "Surveys" in "Millrace Works"
Fill "Application number" with {Application no.}. You should see: The address and the customer {Customer}
Press "Begin survey"
Fill "Pipe length" in "Measurements" with {Length measured}
Press "Save survey". You should see: “Survey saved” with a number
Keep "Survey number" as "Survey no."
Keep "Pipe length" as "Pipe length"
### NS-1.4 Refuse an application | Customer desk | Customer
@ CUS-03 Refuse an application | 10 | low
Go to "Applications" in "Millrace Customer"
Fill "Application number" with {Application no.}
Press "Refuse". You should see: A list of reasons
Pick "Reason" with "No main within 200 m"
Press "Refuse application". You should see: The application is refused, and a letter is ready
### NS-1.5 Change an application | Customer desk | Customer
@ CUS-04 Change the wanted date | 8 | low
Go to "Applications" in "Millrace Customer"
Fill "Application number" with {Application no.}
Fill "Wanted by" with {today + 60 days}
Press "Save application". You should see: The new date, and the old one in the history
## NS-2 Quote and pay | Billing | Billing | critical
### NS-2.1 Price the quote | Billing | Billing | critical
@ BIL-01 Price the quote | 15 | high
Go to "Quotes" in "Millrace Billing". You should see: The list of open quotes
Press "New quote". You should see: An empty quote form
Fill "Survey number" with {Survey no.}. You should see: Address and pipe length are filled in
Pick "Customer band" with {Customer band}
Fill "Valid until" with {today + 90 days}
See "Connection charge" showing {Charge expected}. You should see: The charge of the band, and of each metre over 10
Press "Save quote". You should see: “Quote saved” with a number
Keep "Quote number" as "Quote no."
Keep "Deposit due" as "Deposit due"
@ BIL-02 Price with a trade discount | 18 | medium
Go to "Quotes" in "Millrace Billing"
Press "New quote"
Fill "Survey number" with {Survey no.}
Pick "Customer band" with {Customer band}
Fill "Discount" with {Discount}. You should see: The charge falls by the discount
Press "Save quote". You should see: “Quote saved” with a number
Keep "Quote number" as "Quote no."
Keep "Deposit due" as "Deposit due"
@ BIL-03 Reprice after a survey change | 15 | medium
As "billing lead": go to "Quotes" in "Millrace Billing"
Fill "Quote number" with {Quote no.}
Press "Reprice". You should see: The new pipe length {Pipe length}
See "Connection charge" showing {Charge expected}
Press "Save quote". You should see: The quote is marked “repriced”
Keep "Deposit due" as "Deposit due"
### NS-2.2 Send the quote | Billing | Billing
@ BIL-04 Send the quote | 6 | medium
Go to "Quotes" in "Millrace Billing"
Fill "Quote number" with {Quote no.}
Press "Send". You should see: “Sent today” beside {Quote no.}
### NS-2.3 Record the deposit | Finance | Ledger | critical
@ FIN-01 Record the deposit | 14 | high
Go to "Receipts" in "Millrace Ledger"
Press "New receipt"
Fill "Quote number" with {Quote no.}. You should see: The customer name {Customer} and a deposit of {Deposit due}
Fill "Amount" with {Deposit due}
Press "Take payment". You should see: “Payment taken” and nothing left to pay on the deposit
Keep "Receipt number" as "Receipt no."
### NS-2.4 Let a quote lapse | Billing | Billing
@ BIL-05 Let a quote lapse | 9 | low
Go to "Quotes" in "Millrace Billing"
Fill "Quote number" with {Quote no.}
Press "Age by 91 days". You should see: The quote is “lapsed”, and no deposit can be taken
### NS-2.5 Refund a deposit | Finance | Ledger
@ FIN-02 Refund a deposit | 12 | low
Go to "Receipts" in "Millrace Ledger"
Fill "Receipt number" with {Receipt no.}
Press "Refund". You should see: {Deposit due} goes back, and the receipt is “refunded”
Keep "Refund number" as "Refund no."
## NS-3 Fit the meter | Field crews | Works
### NS-3.1 Plan the fitting | Field crews | Works
@ FLD-02 Plan the fitting | 12 | medium
Go to "Jobs" in "Millrace Works"
Press "New job"
Fill "Receipt number" with {Receipt no.}. You should see: The address of {Customer}
Fill "Planned for" with {today + 5 working days}
Press "Save job". You should see: “Job planned” with a number
Keep "Job number" as "Job no."
### NS-3.2 Issue a meter from the store | Stores | Stores
@ STO-01 Issue a meter from the store | 10 | medium
Go to "Issues" in "Millrace Stores"
Fill "Job number" with {Job no.}. You should see: One meter on the parts list
Press "Issue". You should see: The stock of meters falls by one
Keep "Serial number" as "Meter serial"
### NS-3.3 Fit the meter | Field crews | Works | critical
@ FLD-03 Fit the meter | 30 | high
Go to "Jobs" in "Millrace Works"
Fill "Job number" with {Job no.}
Fill "Meter serial" with {Meter serial}. You should see: The meter is “issued to this job”
Fill "First reading" with {First reading}
Press "Finish job". You should see: The job is “done”
### NS-3.4 Register the meter | Metering | Metering | critical
@ MET-01 Register the meter | 15 | high
Go to "Meters" in "Millrace Metering"
Fill "Meter serial" with {Meter serial}. You should see: The meter is “fitted”, with the reading {First reading}
Press "Register". You should see: “Meter registered” with an account number
Keep "Account number" as "Account no."
### NS-3.5 Exchange a faulty meter | Metering | Metering
@ MET-02 Exchange a faulty meter | 20 | low
Go to "Meters" in "Millrace Metering"
Fill "Meter serial" with {Meter serial}
Press "Report faulty". You should see: An exchange job is made
Keep "Job number" as "Job no."
## NS-4 Issue the first bill | Billing | Billing | critical
### NS-4.1 Open the account | Customer desk | Customer
@ CUS-05 Welcome the customer | 7 | medium
Go to "Accounts" in "Millrace Customer"
Fill "Account number" with {Account no.}. You should see: The account of {Customer}, “new”
Press "Send welcome letter". You should see: “Letter sent today”
### NS-4.2 Bill the rest of the connection | Billing | Billing
@ BIL-06 Bill the rest of the connection charge | 12 | medium
Go to "Bills" in "Millrace Billing"
Fill "Account number" with {Account no.}
Press "Bill connection". You should see: The charge less the deposit of {Deposit due}
Keep "Bill number" as "Connection bill no."
### NS-4.3 Issue the first bill | Billing | Billing | critical
@ BIL-07 Issue the first bill | 16 | high
Go to "Bills" in "Millrace Billing"
Fill "Account number" with {Account no.}. You should see: The first reading {First reading}
Press "Make first bill". You should see: “Bill made” with a number
Keep "Bill number" as "Bill no."
### NS-4.4 Explain a bill | Customer desk | Customer
@ CUS-06 Explain a bill | 9 | low
Go to "Bills" in "Millrace Customer"
Fill "Bill number" with {Bill no.}. You should see: Every line with its tariff
Press "Print explanation". You should see: One page, with the same total
### NS-4.5 Post the connection income | Finance | Ledger
@ FIN-03 Post the connection income | 11 | medium
Go to "Postings" in "Millrace Ledger"
Fill "Document" with {Bill no.}. You should see: One posting to connection income
Press "Post". You should see: “Posted”, and the accounts balance
`;
