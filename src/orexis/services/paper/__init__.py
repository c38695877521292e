"""What leaves the machine on paper and in tables: practice sheets, chart and report as PDF, the weeks as a calendar, CSV."""
