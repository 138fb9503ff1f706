using VelvetGate.Store.Db;
using VelvetGate.Store.Training;

namespace VelvetGate.Web.Training;

/// <summary>What this room needs, and its ways in: the course, sign-offs and everything that keeps them.</summary>
public static class TrainingRoom
{
    public static IServiceCollection AddTraining(this IServiceCollection services) =>
        services
            .AddSingleton<IStewardTasks, TrainingTasks>()
            .AddSingleton<TrainingStore>()
            .AddSingleton<CourseStore>()
            .AddSingleton<QuizStore>()
            .AddSingleton<PathStore>()
            .AddSingleton<PracticalStore>()
            .AddSingleton<PracticalSheetStore>()
            .AddSingleton<QuestionStore>()
            .AddSingleton<InductionStore>()
            .AddSingleton<OutsideStore>()
            .AddSingleton<CertificateHoldStore>()
            .AddSingleton<MatrixStore>()
            .AddSingleton<FoundingStore>()
            .AddScoped<PathEndpoints.Parts>()
            .AddScoped<PracticalEndpoints.Answering>()
            .AddScoped<CertificateEndpoints.Papers>();

    public static void MapTrainingRoom(this IEndpointRouteBuilder app)
    {
        app.MapTraining();
        app.MapCourse();
        app.MapQuizzes();
        app.MapPages();
        app.MapFounding();
        app.MapPaths();
        app.MapMending();
        app.MapPracticals();
        app.MapInductions();
        app.MapPapers();
        app.MapCertificateHolds();
        app.MapMatrix();
        app.MapCertificates();
    }
}
