[assembly: Xunit.CollectionBehavior(DisableTestParallelization = true)]
