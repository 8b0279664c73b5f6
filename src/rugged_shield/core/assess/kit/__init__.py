"""Kit applied to a job: what the joints ask for, what stands in, what is to buy, the tools."""
