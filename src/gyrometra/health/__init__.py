"""The machine itself: its checks over the years, their limits, and what they mean for a job."""
