"""What is done to a cover that is made: each alteration with its panels, goods, steps, and what it gives around; one function for each deed."""
