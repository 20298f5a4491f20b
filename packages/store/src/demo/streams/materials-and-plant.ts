export const MATERIALS_IN = `
# MI Materials in | Stores | Stores
## MI-1 Requisition | Stores | Stores
### MI-1.1 Ask for material | Field crews | Stores
@ FLD-10 Ask for material | 8 | medium
Go to "Requisitions" in "Millrace Stores"
Press "New requisition"
Pick "Material" with {Material}
Fill "Quantity" with {Quantity}
Press "Save". You should see: “Requisition saved” with a number
Keep "Requisition number" as "Requisition no."
### MI-1.2 Approve | Stores | Stores | critical
@ STO-04 Approve a requisition | 7 | high
Go to "Requisitions" in "Millrace Stores"
Fill "Requisition number" with {Requisition no.}. You should see: {Quantity} of {Material}
Press "Approve". You should see: The requisition is “approved”
### MI-1.3 Order | Stores | Stores | critical
@ STO-05 Order from a supplier | 13 | high
Go to "Orders" in "Millrace Stores"
Fill "Requisition number" with {Requisition no.}
Press "Make order". You should see: The supplier with the lowest price first
Press "Send order". You should see: “Order sent” with a number
Keep "Order number" as "Order no."
### MI-1.4 Refuse over budget | Finance | Ledger
@ FIN-09 Refuse a requisition over budget | 9 | low
Go to "Budgets" in "Millrace Ledger"
Fill "Requisition number" with {Requisition no.}
Press "Check budget". You should see: Over budget, and no approval button
### MI-1.5 Change an order | Stores | Stores
## MI-2 Deliver and store | Stores | Stores
### MI-2.1 Take a delivery | Stores | Stores | critical
@ STO-06 Take a delivery | 15 | high
Go to "Deliveries" in "Millrace Stores"
Fill "Order number" with {Order no.}. You should see: {Quantity} of {Material} expected
Fill "Quantity delivered" with {Quantity}
Press "Take delivery". You should see: “Delivery taken” with a note number
Keep "Delivery note" as "Delivery note"
### MI-2.2 Take a short delivery | Stores | Stores
@ STO-07 Take a short delivery | 14 | medium
Go to "Deliveries" in "Millrace Stores"
Fill "Order number" with {Order no.}
Fill "Quantity delivered" with "1"
Press "Take delivery". You should see: The rest stays open on the order
Keep "Delivery note" as "Delivery note"
### MI-2.3 Shelve | Stores | Stores
@ STO-08 Shelve a delivery | 8 | low
Go to "Shelves" in "Millrace Stores"
Fill "Delivery note" with {Delivery note}
Press "Shelve". You should see: The stock of {Material} rises
### MI-2.4 Count stock | Stores | Stores
### MI-2.5 Send back | Stores | Stores
## MI-3 Match the invoice | Finance | Ledger | critical
### MI-3.1 Enter an invoice | Finance | Ledger | critical
@ FIN-10 Enter a supplier invoice | 11 | high
Go to "Invoices" in "Millrace Ledger"
Press "New invoice"
Fill "Order number" with {Order no.}. You should see: The supplier is filled in
Fill "Amount" with {Invoice amount}
Press "Save". You should see: “Invoice saved” with a number
Keep "Invoice number" as "Invoice no."
### MI-3.2 Match three ways | Finance | Ledger | critical
@ FIN-11 Match the supplier invoice | 14 | high
Go to "Invoices" in "Millrace Ledger"
Fill "Invoice number" with {Invoice no.}
Fill "Delivery note" with {Delivery note}. You should see: The order {Order no.} and a difference of 0.00
Press "Match". You should see: The invoice is “matched”
### MI-3.3 Pay | Finance | Ledger
@ FIN-12 Pay a matched invoice | 10 | medium
Go to "Payments" in "Millrace Ledger"
Fill "Invoice number" with {Invoice no.}
Press "Pay". You should see: {Invoice amount} goes out on the due day
### MI-3.4 Question a difference | Finance | Ledger
### MI-3.5 Post accruals | Finance | Ledger
`;

export const PLANT_UPKEEP = `
# PU Plant upkeep | Field crews | Works
## PU-1 Plan the work | Field crews | Works
### PU-1.1 Plan upkeep of a pump | Field crews | Works | critical
@ FLD-11 Plan upkeep of a pump | 13 | high
Go to "Plans" in "Millrace Works"
Pick "Plant" with {Plant}
Fill "Every" with {Interval}
Press "Save plan". You should see: “Plan saved” with a number
Keep "Plan number" as "Plan no."
### PU-1.2 Release work orders | Field crews | Works
@ FLD-12 Release a work order | 9 | medium
Go to "Plans" in "Millrace Works"
Fill "Plan number" with {Plan no.}
Press "Release". You should see: A work order for {Plant}
Keep "Work order number" as "Work order no."
### PU-1.3 Read meter hours | Metering | Metering
@ MET-07 Read a pump’s hours | 8 | medium
Go to "Plant meters" in "Millrace Metering"
Pick "Plant" with {Plant}
Fill "Hours" with {Hours run}
Press "Save". You should see: The next upkeep moves with the hours
Keep "Hours run" as "Meter hours"
### PU-1.4 Shift the calendar | Field crews | Works
### PU-1.5 Reserve spare parts | Stores | Stores
@ STO-09 Reserve spare parts | 9 | low
Go to "Reservations" in "Millrace Stores"
Fill "Work order" with {Work order no.}
Press "Reserve". You should see: “Parts reserved” with a list number
Keep "List number" as "Parts list no."
## PU-2 Permit and do | Field crews | Works
### PU-2.1 Get a safety permit | Field crews | Works | critical
@ FLD-13 Get a safety permit | 14 | high
Go to "Permits" in "Millrace Works"
Fill "Work order" with {Work order no.}
Press "Ask for permit". You should see: A second person must sign
Keep "Permit number" as "Permit no."
### PU-2.2 Do the work | Field crews | Works
@ FLD-14 Do the upkeep | 25 | medium
Go to "Work orders" in "Millrace Works"
Fill "Work order" with {Work order no.}. You should see: The permit {Permit no.}
Press "Begin". You should see: The plant is “out of service”
Press "Finish". You should see: The plant is “in service”
### PU-2.3 Lock and tag | Field crews | Works
### PU-2.4 Record findings | Field crews | Works
### PU-2.5 Order a repair | Field crews | Works
## PU-3 Close out | Finance | Ledger
### PU-3.1 Book hours and parts | Stores | Stores
@ STO-10 Book hours and parts | 10 | medium
Go to "Work orders" in "Millrace Stores"
Fill "Work order" with {Work order no.}
Fill "List number" with {Parts list no.}
Press "Book". You should see: “Booked”
Keep "Cost" as "Work cost"
### PU-3.2 Settle the work order | Finance | Ledger | critical
@ FIN-13 Settle a work order | 12 | high
Go to "Settlements" in "Millrace Ledger"
Fill "Work order" with {Work order no.}. You should see: A cost of {Work cost}
Press "Settle". You should see: The cost is on {Plant}
### PU-3.3 Report availability | Finance | Ledger
### PU-3.4 Update the asset register | Finance | Ledger
### PU-3.5 Review the interval | Field crews | Works
`;
