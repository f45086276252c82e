using System.Net;
using Fenster.Store;
using Fenster.Testing;
using Fenster.Web.Hosting;
using Microsoft.AspNetCore.Mvc;

namespace Fenster.Web.Tests;

/// <summary>What takes long: in turns, in pieces between which others go first, with progress and a way to stop.</summary>
public sealed class JobTests
{
    /// <summary>A job that goes on step by step as the test lets it.</summary>
    private sealed class Slow(FensterWithClock fenster, int steps) : IDisposable
    {
        private readonly SemaphoreSlim step = new(0);

        public async Task<string> Begin(bool isWhole)
        {
            var answer = await fenster
                .Get<Jobs>()
                .Run(1, "A long job", "/activities", steps, isWhole, job =>
                {
                    for (var n = 0; n < steps; n++)
                    {
                        job.Step(1);
                        step.Wait();
                    }
                    return new JobEnd.Gives([1, 2, 3], "text/csv", "three.csv");
                });
            return Assert.IsType<RedirectResult>(answer).Url;
        }

        public void Go(int steps) => step.Release(steps);

        public void Dispose() => step.Dispose();
    }

    private static async Task<string> Until(Visitor visitor, string path, string text)
    {
        for (var turn = 0; turn < 300; turn++)
        {
            if (await visitor.Text(path) is var page && page.Contains(text, StringComparison.Ordinal))
                return page;
            await Task.Delay(50);
        }
        throw new TimeoutException($"“{text}” never came.");
    }

    [Fact]
    public async Task A_long_job_says_how_far_it_is_and_its_file_is_fetched_at_the_end()
    {
        using var fenster = new FensterWithClock();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        using var slow = new Slow(fenster, 4);
        var path = await slow.Begin(isWhole: true);
        slow.Go(2);
        Assert.Contains("Stop", await Until(teacher, path, "3 of 4 are done"));
        // Nobody else learns of it.
        using var other = new Visitor(fenster.Address);
        Assert.DoesNotContain("A long job", await other.Text(path));
        // What is worked out for others goes first between its pieces.
        var beside = fenster.Get<LongWork>().Run(1, _ => "beside", CancellationToken.None);
        slow.Go(1);
        Assert.Equal("beside", await beside);
        slow.Go(1);
        await Until(teacher, path, "The file is ready");
        Assert.Equal([1, 2, 3], await (await teacher.Get($"{path}?handler=File")).Content.ReadAsByteArrayAsync());
        Assert.Equal(HttpStatusCode.NotFound, (await teacher.Get("/working/0123")).StatusCode);
    }

    [Theory]
    [InlineData(true, "Stopped. Nothing was changed.")]
    [InlineData(false, "are done and stay so")]
    public async Task A_job_that_is_stopped_says_what_stays(bool isWhole, string sentence)
    {
        using var fenster = new FensterWithClock();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        using var slow = new Slow(fenster, 1000);
        var path = await slow.Begin(isWhole);
        slow.Go(5);
        await Until(teacher, path, "6 of 1");
        await teacher.Post($"{path}?handler=Stop");
        slow.Go(1);
        await Until(teacher, path, sentence);
        Assert.Equal(HttpStatusCode.NotFound, (await teacher.Get($"{path}?handler=File")).StatusCode);
    }

    [Fact]
    public async Task A_regrade_that_is_stopped_changes_nothing()
    {
        using var fenster = new FensterWithClock();
        using var teacher = await new Visitor(fenster.Address).SignIn();
        var (id, code) = await teacher.Publish(Samples.Document(2));
        using var ann = new Visitor(fenster.Address);
        await ann.Join(code, "Ann");
        await ann.HandIn(code);
        var (regrades, attempts) = (fenster.Get<Regrades>(), fenster.Get<Attempts>());
        var given = fenster.Get<Assignments>().Of(id)[0];
        var before = attempts.Page(given.Id).Select(line => line.Handed).ToList();
        Assert.NotNull(Assert.Single(before));
        var changed = Samples.Document(2).Replace("Parts of something", "Parts", StringComparison.Ordinal);
        Assert.Throws<OperationCanceledException>(() =>
        {
            regrades.Apply(given, changed, RegradeManner.ForAll, "A test", 1, tell: null, step: _ =>
                throw new OperationCanceledException()
            );
        });
        Assert.Equal(before, attempts.Page(given.Id).Select(line => line.Handed));
        Assert.Empty(regrades.Of(given.Id));
    }
}
